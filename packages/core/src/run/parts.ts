/**
 * What features have of their own, by their names: each declares its members in its own folder. A member is absent in a
 * build without that feature, and so optional for all but the feature itself.
 */
// biome-ignore-start lint/suspicious/noEmptyInterface: features declare the members

/** While a piece is compiled. */
export interface CompilingParts {}
/** Of a program. */
export interface ProgramParts {}
/** Rows of a state. */
export interface StateParts {}
/** While a piece runs. */
export interface RunParts {}
/** The set of features that a program was compiled with: `featuresOf` tells more. */
export interface Features {
  readonly names: readonly string[];
}
// biome-ignore-end lint/suspicious/noEmptyInterface: features declare the members
