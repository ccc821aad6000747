import type { Action } from '@apple-tick/core/model';
import { TagList } from '../ui/TagList.tsx';
import type { OwnParts } from './own.ts';

/** Who hears a message: all, or what has one of some tags. */
function SendParts({ a, onChange }: { a: Action & { do: 'send' }; onChange: (a: Action) => void }) {
  const { tags = [], ...rest } = a;
  const put = (to: string[]) => onChange(to.length > 0 ? { ...rest, tags: to } : rest);
  return (
    <>
      to
      <TagList
        on={tags}
        adding="Changed an action"
        offer={tags.length === 0 ? 'all' : 'and…'}
        onPut={(tag, on) => put(on ? [...tags, tag] : tags.filter((t) => t !== tag))}
      />
    </>
  );
}

/** The actions whose fields are edited here. */
export const own = {
  send: { fields: ['tags'], Parts: SendParts },
} satisfies OwnParts;
