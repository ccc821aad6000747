/** JSON Schema (2020-12) of the file. */
import { z } from 'zod';
import { pieceForm } from '../model/index.ts';
import { toZod } from './to-zod.ts';

export function pieceJsonSchema(): unknown {
  return z.toJSONSchema(toZod(pieceForm), { io: 'input', unrepresentable: 'any' });
}
