export * from './forms.ts';
export {
  branchOf,
  copyOf,
  GONE,
  type GoneRules,
  type IdVisitor,
  namesAnything,
  presetsOf,
  replaceIds,
  visitIds,
  visitProperties,
  withoutIds,
} from './walk.ts';
