/** In the page: the painter against a bare loop over the same paths, and a drag's frame against a bare redraw. */
import { rgbToHex } from '@apple-tick/core/base';
import {
  defaultBase,
  type Effect,
  emptyPiece,
  History,
  type Piece,
  PieceStore,
  type SceneObject,
} from '@apple-tick/core/model';
import {
  type ActiveEffect,
  compile,
  compileAgain,
  type EffectProgram,
  FaceBuilder,
} from '@apple-tick/core/run';
import type { FaceList } from '@apple-tick/core/world';
import { paintFaces } from '@apple-tick/painter';
import { Effects, Player } from '@apple-tick/player';

function scene(count: number): Piece {
  const p = emptyPiece('bench', 'Bench');
  for (let i = 0; i < count; i++) {
    const id = `ob_${i}`;
    const common = {
      id,
      name: id,
      parent: null,
      order: `a${String(i).padStart(5, '0')}`,
      tags: [],
      hint: '',
      base: {
        ...defaultBase(),
        fill: ['#7fa982', '#c14436', '#dfa83f', '#2f6785'][i % 4] as string,
        position: [(i % 50) * 18 - 450, Math.floor(i / 50) * 13 - 260, 0] as [number, number, number],
      },
    };
    const shapes = [
      { ...common, kind: 'ellipse', size: [14, 10] },
      { ...common, kind: 'rect', size: [14, 10], radius: 2 },
      { ...common, kind: 'polygon', size: [14, 10], sides: 5, star: 0.5 },
    ];
    p.objects[id] = shapes[i % 3] as SceneObject;
  }
  return p;
}

const ctx = (document.querySelector('canvas') as HTMLCanvasElement).getContext(
  '2d',
) as CanvasRenderingContext2D;
const at = { x: 480, y: 270, scale: 1 };
const median = (list: number[]) => list.sort((a, b) => a - b)[list.length >> 1] as number;
/** Waits for what was drawn, by reading one pixel. */
const drawn = (f: () => void) => {
  const start = performance.now();
  f();
  ctx.getImageData(0, 0, 1, 1);
  return performance.now() - start;
};

const store = new PieceStore(scene(2000));
const history = new History(store);
const builder = new FaceBuilder();
let program = compile(store.toPiece());
const view = { azimuth: 0, elevation: 0 };
let faces: FaceList = builder.build(program, program.base, view);

// The bare loop: the same paths, matrices and colours, looked up beforehand.
const plain = Array.from({ length: faces.count }, (_, n) => {
  const f = faces.order[n] as number;
  const o = faces.outline[f] as FaceList['outline'][number];
  const path = new Path2D();
  if (o.subpaths)
    for (const s of o.subpaths) {
      s.nodes.forEach((q, i) => {
        if (i === 0) path.moveTo(q.at[0], q.at[1]);
        else path.lineTo(q.at[0], q.at[1]);
      });
      path.closePath();
    }
  else if (o.kind === 2) path.ellipse(0, 0, o.hw, o.hh, 0, 0, 2 * Math.PI);
  else path.roundRect(-o.hw, -o.hh, 2 * o.hw, 2 * o.hh, o.radius);
  return {
    path,
    fill: rgbToHex(faces.rgb[f] as number),
    p: faces.plane.slice(f * 9, f * 9 + 9) as unknown as number[],
  };
});
const bare = () => {
  for (const { path, fill, p } of plain) {
    ctx.setTransform(
      p[3] as number,
      -(p[4] as number),
      p[6] as number,
      -(p[7] as number),
      at.x + (p[0] as number),
      at.y - (p[1] as number),
    );
    ctx.fillStyle = fill;
    ctx.fill(path);
  }
};
const painter = () => paintFaces(ctx, faces, at);
let n = 0;
/** A frame of a drag of 500 objects: the edit, compiling, posing, ordering, painting. */
const dragFrame = () => {
  n++;
  history.edit('Moved', (e) => {
    for (let i = 0; i < 500; i++)
      e.update('objects', `ob_${i}`, (o) => ({
        ...o,
        base: { ...o.base, position: [(i % 50) * 18 - 450 + (n % 7), o.base.position[1], 0] },
      }));
  });
  program = compileAgain(store.toPiece(), program);
  faces = builder.build(program, program.base, view);
  painter();
};
const redraw = () => {
  faces = builder.build(program, program.base, view);
  painter();
};

const compare = (a: () => void, b: () => void) => {
  for (let i = 0; i < 5; i++) {
    drawn(a);
    drawn(b);
  }
  return median(Array.from({ length: 25 }, () => drawn(a) / drawn(b)));
};
/** The longest of 120 frames of a drag, as a multiple of a usual redraw: of seven such drags, as the machine has hiccups. */
const longest = () => {
  const usual = median(Array.from({ length: 25 }, () => drawn(redraw)));
  const drag = () => Math.max(...Array.from({ length: 120 }, () => drawn(dragFrame))) / usual;
  return median(Array.from({ length: 7 }, drag));
};
history.begin('Drag');

/** 500 particles that all live: a frame of them, and a bare loop that works out and paints the same. */
function particles(): number {
  const p = emptyPiece('bench', 'Burst');
  const burst = {
    ...{ id: 'ef_b', name: 'b', kind: 'burst', count: 500, seconds: [50, 60], direction: 90, spread: 360 },
    ...{ speed: [60, 120], gravity: [0, -20, 0], drag: 0, depth: 0.5, size: [4, 8], spin: [0, 0] },
    ...{ fills: ['#b23529', '#dfa83f', '#7fa982'], drawing: 'dot', fade: 0.5 },
  } as Extract<Effect, { kind: 'burst' }>;
  p.effects['ef_b'] = burst;
  const ofBurst = compile(p);
  const effects = new Effects();
  let age = 0;
  const frame = () => {
    age = (age + 1 / 60) % 4;
    const effect = ofBurst.parts.effects?.effects[0] as EffectProgram;
    const show: ActiveEffect = {
      effect,
      n: 0,
      object: -1,
      age,
      origin: [0, 0, 0],
      onTop: false,
      shown: true,
    };
    effects.build(ofBurst, [show], 1, null, view);
    effects.paint(ctx, at, p.frame, () => undefined);
  };
  const draws = Float64Array.from({ length: 500 * 8 }, () => Math.random());
  const loop = () => {
    age = (age + 1 / 60) % 4;
    for (let i = 0; i < 500; i++) {
      const u = (k: number) => draws[i * 8 + k] as number;
      const life = 50 + 10 * u(0);
      const direction = ((90 + (u(1) - 0.5) * 360) * Math.PI) / 180;
      const speed = 60 + 60 * u(2);
      const x = speed * Math.cos(direction) * age;
      const y = speed * Math.sin(direction) * age - 10 * age * age;
      const size = 4 + 4 * u(4);
      ctx.globalAlpha = Math.min(1, (life - age) / (0.5 * life));
      ctx.fillStyle = burst.fills[Math.floor(u(6) * 3)] as string;
      ctx.beginPath();
      ctx.arc(at.x + x, at.y - y, size / 2, 0, 2 * Math.PI);
      ctx.fill();
    }
    ctx.globalAlpha = 1;
  };
  return compare(frame, loop);
}
/** From pressing Run to the first live frame of 2,000 objects, which are compiled already, for being seen, and compiling them. */
function firstFrame(): number {
  const pieces = Array.from({ length: 22 }, () => structuredClone(store.toPiece()));
  const each = Array.from({ length: 11 }, (_, i) => {
    const known = compile(pieces[2 * i] as Piece);
    const run = drawn(() => {
      const player = new Player(known);
      const { program, state } = player.run;
      paintFaces(ctx, new FaceBuilder().build(program, state.values, view), at);
    });
    const bareCompile = drawn(() => void compile(pieces[2 * i + 1] as Piece));
    return run / bareCompile;
  });
  return median(each.slice(1));
}
const ratios = {
  first: firstFrame(),
  painter: compare(painter, bare),
  drag: compare(dragFrame, redraw),
  longest: longest(),
  particles: particles(),
};
Object.assign(window, { ratios });
