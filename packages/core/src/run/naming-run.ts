/** Inputs that name an object, as files and tests have them; in a page people point, and this is not carried along. */
import { visiblePoint } from '../world/index.ts';
import { Run } from './run.ts';
import { FRAME_HEIGHT, FRAME_WIDTH } from './state.ts';

/** A run in which such inputs find a point of their object. */
export class NamingRun extends Run {
  /** A visible point of an object: of its own faces, else of what lies below it; null when none can be seen. */
  protected override aim(object: number): [number, number] | null {
    const { parent } = this.program.geometry;
    const { one } = this.state;
    const [halfWidth, halfHeight] = [(one[FRAME_WIDTH] as number) / 2, (one[FRAME_HEIGHT] as number) / 2];
    const faces = this.scene.faces();
    const topmost = (x: number, y: number) => this.scene.hit(x, y);
    const below = (o: number) => {
      for (let at = o; at >= 0; at = parent[at] as number) if (at === object) return true;
      return false;
    };
    return (
      visiblePoint(faces, (o) => o === object, halfWidth, halfHeight, topmost) ??
      visiblePoint(faces, below, halfWidth, halfHeight, topmost)
    );
  }
}
