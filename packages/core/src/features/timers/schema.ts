/** The event of a timer, as it stands in files and sentences. */
import { maybe, number } from '../../grammar/index.ts';
import { seconds } from '../../model/common.ts';
import { events as group } from '../../model/event-kind.ts';

/** Seconds: the first firing at `after` (else `every`), then each `every`, give or take `jitter`. */
export const on = {
  after: maybe(seconds),
  every: maybe(number({ min: 0.001, max: 86400, low: 'must be at least 0.001 seconds' })),
  jitter: maybe(seconds),
};

export const events = group('Time', { timer: ['after a time', '{it}', 'after', 'every', 'jitter'] });
