export * from './schema.ts';
export {
  branchOf,
  copyOf,
  defaultsOf,
  GONE,
  type GoneRules,
  type IdVisitor,
  namesAnything,
  replaceIds,
  visitIds,
  visitProperties,
  withoutIds,
} from './walk.ts';
