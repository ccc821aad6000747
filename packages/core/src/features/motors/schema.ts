/** Actions of motors, as they stand in files and sentences. */
import { maybe, property, toggle } from '../../grammar/index.ts';
import { kind, thing } from '../../model/action-kind.ts';
import { valueSchema } from '../../model/value.ts';

export const actions = {
  motor: kind(
    'motor',
    'run a motor on {object} {property} at {rate} a second',
    {
      object: thing,
      property,
      rate: valueSchema,
      acceleration: maybe(valueSchema),
      limit: maybe(valueSchema),
    },
    { told: '{object} {property} driven by a motor' },
  ),
  stopMotor: kind(
    'stop a motor',
    'stop the motor on {object} {property}',
    {
      object: thing,
      property,
      return: maybe(toggle),
    },
    { told: '{object} {property} no longer driven' },
  ),
} as const;
