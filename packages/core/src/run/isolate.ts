/** One object alone. */
import type { Program } from './program.ts';

/** 1 for all objects but one and what is below it: to paint that alone. */
export function allBut(program: Program, object: number): Uint8Array {
  const { parent } = program.geometry;
  const out = new Uint8Array(program.objects.length).fill(1);
  for (let i = object; i < out.length; i++)
    if (i === object || ((parent[i] as number) >= object && out[parent[i] as number] === 0)) out[i] = 0;
  return out;
}
