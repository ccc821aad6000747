export { allHold, conditionHolds, type Facts } from './conditions.ts';
export { drawWeighted } from './odds.ts';
export { mapRange, readValue, toNumber, type ValueSource } from './values.ts';
