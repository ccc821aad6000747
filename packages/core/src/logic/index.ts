export { drawWeighted } from './odds.ts';
export { compileValue, mapRange, toNumber, type ValueSource } from './values.ts';
