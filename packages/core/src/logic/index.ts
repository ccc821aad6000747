export {
  compileCondition,
  compileConditions,
  type Facts,
  type Reads,
  readsOf,
  type Test,
} from './conditions.ts';
export type { Lookup, Names } from './names.ts';
export { drawWeighted } from './odds.ts';
export { compileValue, mapRange, type Reader, toNumber, type ValueSource } from './values.ts';
