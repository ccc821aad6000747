import { type TemplateHead, uniqueName } from '@apple-tick/core/model';
import { runCommand } from '../../commands/registry.ts';
import { useSession, useTable } from '../../session/hooks.ts';
import { Heading, NumberField, Row } from '../../ui/fields.tsx';
import { addInstance, openTemplate, timesWords, usesOfTemplate } from './edit.ts';

/** A template: its name, where it stands, and how many of it may be spawned. */
export function TemplateDetails({ template }: { template: TemplateHead }) {
  const s = useSession();
  useTable('objects');
  const change = (name: string, part: Partial<TemplateHead>) =>
    s.edit(name, (e) => e.update('templates', template.id, (x) => ({ ...x, ...part })));
  const uses = usesOfTemplate(s.store, template.id);
  const here = uses.filter((o) => s.store.homeOf(o.id) === s.store.scope);
  return (
    <div className="p-3.5 space-y-2">
      <Heading
        label="Name of the template"
        name={template.name}
        kind="template"
        onRename={(n) => {
          const taken = s.store.all('templates').flatMap((x) => (x.id === template.id ? [] : x.name));
          change(`Renamed ${template.name}`, { name: uniqueName(n, new Set(taken)) });
        }}
      />
      <p className="text-ink-2">
        It stands {timesWords(uses.length)}. What is changed in it changes in each of them.
      </p>
      <div className="flex flex-wrap gap-1">
        <button type="button" className="btn btn-ink" onClick={() => openTemplate(s, template.id)}>
          Open it
        </button>
        <button type="button" className="btn" onClick={() => addInstance(s, template.id)}>
          Place one
        </button>
      </div>
      {here.length > 0 && (
        <ul aria-label="Its places">
          {here.map((o) => (
            <li key={o.id}>
              <button
                type="button"
                className="underline"
                onClick={() => s.select({ kind: 'object', id: o.id })}
              >
                {o.name}
              </button>
            </li>
          ))}
        </ul>
      )}
      <Row title="Spawned">
        <span className="text-ink-2">at most</span>
        <span className="flex w-16">
          <NumberField
            label="Spawned at once, at most"
            value={template.max}
            least={1}
            most={1000}
            onChange={(n) => change(`Changed ${template.name}`, { max: Math.round(n) })}
          />
        </span>
        <span className="text-ink-2">at once</span>
      </Row>
      <button type="button" className="btn" onClick={() => runCommand(s, 'delete')}>
        Delete the template and all its places
      </button>
    </div>
  );
}
