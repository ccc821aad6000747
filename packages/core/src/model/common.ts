/** Schemas that several records share. Vectors are px or degrees per axis, as the field's name says. */
import { number, type Of, text, tuple } from '../grammar/index.ts';
import { FARTHEST } from './limits.ts';

export const name = text({
  min: 1,
  max: 200,
  short: 'must not be empty',
  long: 'must be at most 200 characters',
});
export const length = number({ min: -FARTHEST, max: FARTHEST, low: 'is too small', high: 'is too large' });
export const vec3 = tuple(length, length, length);
export const seconds = number({
  min: 0,
  max: 86400,
  low: 'must not be negative',
  high: 'must be at most a day',
});
export const color = text({ like: ['^#[0-9a-f]{6}$', 'must be a colour such as "#7fa982"'] });
export const note = text({ max: 10000 });
/** An amount from nothing to all. */
export const amount = number({
  min: 0,
  max: 1,
  low: 'must lie between 0 and 1',
  high: 'must lie between 0 and 1',
});

export type Vec3 = Of<typeof vec3>;

/** How one kind of a thing that has several kinds is said. */
export interface Said {
  /** The sentence: a field's name in braces stands for what it holds. */
  readonly says: string;
  /** What stands for it where one is picked from a list. */
  readonly pick: string;
  /**
   * How the log tells that it happened: a field of the record in braces stands for what it names, `{played}` for a clip and,
   * where that is not its own, the object that it is played on. Without it the log does not tell it.
   */
  readonly told?: string;
}
