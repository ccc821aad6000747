/** The numbers that stand for ids in a compiled piece; −1 for what is not there. */
export interface Names {
  signal(id: string): number;
  lane(id: string): number;
  state(lane: number, id: string): number;
  clip(id: string): number;
  object(id: string): number;
}
