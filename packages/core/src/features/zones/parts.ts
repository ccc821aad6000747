/** What a compiler, a program, a state and a run have of this feature. */
import type { CompilingZones, ZonesProgram } from './program.ts';
import type { ZoneRows } from './rows.ts';
import type { Zones } from './run.ts';

declare module '../../run/parts.ts' {
  interface CompilingParts {
    readonly zones?: CompilingZones;
  }
  interface ProgramParts {
    readonly zones?: ZonesProgram;
  }
  interface StateParts {
    readonly zones?: ZoneRows;
  }
  interface RunParts {
    readonly zones?: Zones;
  }
}
