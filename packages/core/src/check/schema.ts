/** JSON Schema (2020-12) of the file. */
import { z } from 'zod';
import { pieceSchema } from '../model/index.ts';
import { toZod } from './to-zod.ts';

export function pieceJsonSchema(): unknown {
  return z.toJSONSchema(toZod(pieceSchema), { io: 'input', unrepresentable: 'any' });
}
