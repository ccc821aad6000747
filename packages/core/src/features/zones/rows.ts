/** What a state has of zones. */
import type { Program } from '../../run/program.ts';
import type { RowMaker } from '../../run/rows.ts';

export interface ZoneRows {
  /** Per pair of a zone and a thing whether it is in it, or near. */
  readonly overlapping: Uint8Array;
  /** By zone the record of the last that it noticed, −1 for none. */
  readonly zoneRec: Float64Array;
  /** Whether a zone was switched on when it last looked. */
  readonly zoneOn: Uint8Array;
}
export function zoneRows({ parts }: Program, make: RowMaker): ZoneRows {
  const n = parts.zones?.colliders.length ?? 0;
  return {
    overlapping: make.bytes(parts.zones?.pairs ?? 0),
    zoneRec: make.floats(n, -1),
    zoneOn: make.bytes(n),
  };
}
