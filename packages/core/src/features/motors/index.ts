/** Motors: actions that add to properties for as long as they run. */
import { compileValue, toNumber } from '../../logic/index.ts';
import { canOffset } from '../../model/index.ts';
import type { ActionTable, Feature } from '../../run/feature.ts';
import { about, possible } from '../../run/things.ts';
import { Motors } from './run.ts';

const actions: ActionTable<'motor' | 'stopMotor'> = {
  motor: (a, names, stream) => {
    const rate = compileValue(a.rate, names, stream);
    const acceleration = compileValue(a.acceleration ?? 0, names, stream);
    const limit = compileValue(a.limit ?? Number.POSITIVE_INFINITY, names, stream);
    return about(names, a, (the, property) => {
      if (canOffset(property)) for (const object of possible(names, a.object)) names.motors(object, property);
      return (d, cause) => {
        const motor = {
          rate: toNumber(rate(d)),
          acceleration: toNumber(acceleration(d)),
          limit: toNumber(limit(d)),
        };
        d.parts.motors?.begin(the(cause), property, motor, cause);
      };
    });
  },
  stopMotor: (a, names) => {
    return about(
      names,
      a,
      (the, property) => (d, cause) => d.parts.motors?.stop(the(cause), property, a.return ?? false, cause),
    );
  },
};

export const motors: Feature = { name: 'motors', actions, run: (base) => new Motors(base) };
