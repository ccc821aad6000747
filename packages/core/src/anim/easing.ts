/**
 * Easing curves in one flat pool: what a segment's progress x in time becomes. Each begins with its kind; kinds, but for
 * lists of stops, come from a row of five numbers, so that a crossfade can carry its own. Only + − × ÷, roots and the
 * functions of `base/math.ts` are used, so every engine gives the same bits.
 */
import { cosDeg, exp, sinDeg } from '../base/index.ts';
import { type Easing, FAMILIES, type FadeEasing, STEP_POSITIONS, WAYS } from '../model/index.ts';

/** Kinds that need no curve. */
export const HOLD = -1;
export const LINEAR = -2;
const BEZIER = 0;
const STEPS = 1;
const FAMILY = 2;
const ELASTIC = 3;
const SPRING = 4;
const BOUNCE = 5;
const STOPS = 6;

const TABLE = 17;
/** Numbers a curve takes in the pool: kind; of a Bézier three coefficients of X, three of Y, the bound on |Y′|, a table. */
export const CURVE = 8 + TABLE;
/** Numbers of an easing's row: kind and four more. */
export const EASE_ROW = 5;

/** Writes an easing that is not a list of stops as five numbers. */
export function writeEasing(rows: Float64Array, at: number, e: FadeEasing): void {
  rows.fill(0, at, at + EASE_ROW);
  const set = (...numbers: number[]) => rows.set(numbers, at);
  if (typeof e === 'string') set(e === 'hold' ? HOLD : LINEAR);
  else if ('bezier' in e) set(BEZIER, ...e.bezier);
  else if ('steps' in e) set(STEPS, e.steps, STEP_POSITIONS.indexOf(e.position));
  else if ('family' in e) set(FAMILY, FAMILIES.indexOf(e.family), WAYS.indexOf(e.way));
  else if ('elastic' in e) set(ELASTIC, e.elastic.amplitude, e.elastic.period);
  else if ('spring' in e) set(SPRING, e.spring.damping);
  else set(BOUNCE, e.bounce);
}

/** −ln 0.001, and where (1 + x)·e^−x is 0.001. */
const LN_1000 = 6.907755278982137;
const CRITICAL = 9.233413476451586;

/** Writes the curve of the row at `rows[from…]`, whose kind is not HOLD or LINEAR, at `pool[at…at+CURVE−1]`. */
export function compileCurve(pool: Float64Array, at: number, rows: ArrayLike<number>, from: number): void {
  const kind = rows[from] as number;
  const a = rows[from + 1] as number;
  const b = rows[from + 2] as number;
  pool[at] = kind;
  pool[at + 1] = a;
  pool[at + 2] = b;
  if (kind === BEZIER) compileBezier(pool, at + 1, a, b, rows[from + 3] as number, rows[from + 4] as number);
  else if (kind === STEPS) {
    // Jumps in all, and those that have been made where the segment starts.
    pool[at + 2] = a + (b === 2 ? -1 : b === 3 ? 1 : 0);
    pool[at + 3] = b === 0 || b === 3 ? 1 : 0;
  } else if (kind === ELASTIC) {
    pool[at + 2] = 360 / b;
    pool[at + 3] = arcSine(1 / a);
  } else if (kind === SPRING) {
    const root = Math.sqrt(Math.abs(1 - a * a));
    pool[at + 2] = a < 1 ? LN_1000 / a : a === 1 ? CRITICAL : LN_1000 / (a - root);
    pool[at + 3] = root;
  } else if (kind === BOUNCE) {
    // One fall and rebounds of 1, 1/2, 1/4 … of its time are the whole.
    let whole = 1;
    for (let k = 0, time = 1; k < a; k++, time /= 2) whole += time;
    pool[at + 2] = 1 / whole;
  }
}

/** The angle in degrees, 0 to 90, whose sine this is: halved until it cannot be told. */
function arcSine(sine: number): number {
  if (sine >= 1) return 90;
  let [low, high] = [0, 90];
  for (let k = 0; k < 60; k++) {
    const middle = (low + high) / 2;
    if (sinDeg(middle) < sine) low = middle;
    else high = middle;
  }
  return (low + high) / 2;
}

/** Stops as in CSS Easing Level 2: places that are missing lie evenly, none lies before the one before it. */
export function compileStops(list: readonly (number | readonly [number, number])[]): Float64Array {
  const n = list.length;
  const out = new Float64Array(2 + 2 * n);
  out[0] = STOPS;
  out[1] = n;
  const places = list.map((s, i) =>
    typeof s === 'object' ? s[1] / 100 : i === 0 ? 0 : i === n - 1 ? 1 : Number.NaN,
  );
  let largest = Number.NEGATIVE_INFINITY;
  for (let i = 0; i < n; i++) {
    if (Number.isNaN(places[i])) continue;
    largest = Math.max(largest, places[i] as number);
    places[i] = largest;
  }
  for (let i = 1; i < n; i++) {
    if (!Number.isNaN(places[i])) continue;
    let next = i;
    while (Number.isNaN(places[next])) next++;
    const [from, to] = [places[i - 1] as number, places[next] as number];
    for (let k = i; k < next; k++) places[k] = from + ((to - from) * (k - i + 1)) / (next - i + 1);
  }
  list.forEach((s, i) => {
    out[2 + 2 * i] = places[i] as number;
    out[3 + 2 * i] = typeof s === 'object' ? s[0] : s;
  });
  return out;
}

/**
 * The Bézier from (0,0) to (1,1) of CSS Easing Level 1: given x, find the parameter u with X(u) = x, return Y(u). Solved
 * by Newton steps held in a bracket that a 17-entry table of X gives. x1 and x2 must lie in 0…1.
 */
function compileBezier(pool: Float64Array, at: number, x1: number, y1: number, x2: number, y2: number): void {
  const ax = 1 + 3 * x1 - 3 * x2;
  const bx = 3 * x2 - 6 * x1;
  const cx = 3 * x1;
  pool[at] = ax;
  pool[at + 1] = bx;
  pool[at + 2] = cx;
  pool[at + 3] = 1 + 3 * y1 - 3 * y2;
  pool[at + 4] = 3 * y2 - 6 * y1;
  pool[at + 5] = 3 * y1;
  // Y′ is a quadratic Bézier of these three differences, times 3: it never exceeds the largest of them.
  pool[at + 6] = 3 * Math.max(Math.abs(y1), Math.abs(y2 - y1), Math.abs(1 - y2));
  for (let i = 0; i < TABLE; i++) {
    const u = i / (TABLE - 1);
    pool[at + 7 + i] = ((ax * u + bx) * u + cx) * u;
  }
}

/** Y at progress x of the curve at `pool[at…]`, within 1e-9 of the exact value. x outside 0…1 counts as 0 or 1. */
export function evaluateCurve(pool: Float64Array, at: number, x: number): number {
  progress[0] = x;
  easeInPlace(pool, at, progress);
  return progress[0] as number;
}

const progress = new Float64Array(1);

/**
 * Whether a curve goes in steps. A step is there from 1e-9 s before its instant on, so whoever knows how many seconds the
 * segment lasts adds that to the progress first.
 */
export function isStepped(pool: Float64Array, at: number): boolean {
  return pool[at] === STEPS;
}

/** Replaces the progress in `io[0]` by the curve's Y: numbers that are passed in arrays cost no memory. */
export function easeInPlace(pool: Float64Array, at: number, io: Float64Array): void {
  const x = io[0] as number;
  const kind = pool[at] as number;
  if (kind === STEPS) {
    const jumps = pool[at + 2] as number;
    const made =
      Math.floor((x <= 0 ? 0 : Math.min(x, 1)) * (pool[at + 1] as number)) + (pool[at + 3] as number);
    io[0] = Math.min(made, jumps) / jumps;
  } else if (kind === STOPS) easeByStops(pool, at, io);
  else if (!(x > 0) || x >= 1) io[0] = x >= 1 ? 1 : 0;
  else if (kind === BEZIER) easeByBezier(pool, at + 1, io);
  else if (kind === FAMILY) easeByFamily(pool, at, io);
  else if (kind === ELASTIC) {
    const angle = x * (pool[at + 2] as number) - (pool[at + 3] as number);
    io[0] = 1 + (pool[at + 1] as number) * exp(-10 * Math.LN2 * x) * sinDeg(angle);
  } else if (kind === SPRING) easeBySpring(pool, at, io);
  else easeByBounce(pool, at, io);
}

/** The families in their usual closed forms: the way in; the way out is that turned round, and in-out both at half size. */
function easeByFamily(pool: Float64Array, at: number, io: Float64Array): void {
  const family = pool[at + 1] as number;
  const direction = pool[at + 2] as number;
  const x = io[0] as number;
  const out = direction === 1 || (direction === 2 && x >= 0.5);
  const half = direction === 2 ? 2 : 1;
  const t = (out ? 1 - x : x) * half;
  let y = t;
  if (family === 0) y = 1 - cosDeg(90 * t);
  else if (family === 5) y = t === 0 ? 0 : exp(10 * Math.LN2 * (t - 1));
  else if (family === 6) y = 1 - Math.sqrt(Math.max(0, 1 - t * t));
  else if (family === 7) {
    // How far it draws back: a tenth of the way; in-out a little more, as is usual.
    const c = direction === 2 ? 1.70158 * 1.525 : 1.70158;
    y = t * t * ((c + 1) * t - c);
  } else for (let k = 0; k < family; k++) y *= t;
  io[0] = out ? 1 - y / half : y / half;
}

/**
 * The step response of a damped oscillator, x(t) for damping ratio ζ and ω₀, from 0 to 1 at rest. Time is scaled so that
 * what bounds its distance from 1 is 0.001 at the end; see `semantics.md` of the design, clips.
 */
function easeBySpring(pool: Float64Array, at: number, io: Float64Array): void {
  const damping = pool[at + 1] as number;
  const omega = pool[at + 2] as number;
  const root = pool[at + 3] as number;
  const t = (io[0] as number) * omega;
  if (damping < 1) {
    const angle = (root * t * 180) / Math.PI;
    io[0] = 1 - exp(-damping * t) * (cosDeg(angle) + (damping / root) * sinDeg(angle));
  } else if (damping === 1) io[0] = 1 - (1 + t) * exp(-t);
  else {
    const [slow, fast] = [damping - root, damping + root];
    io[0] = 1 - (fast * exp(-slow * t) - slow * exp(-fast * t)) / (2 * root);
  }
}

/** A fall, then rebounds each a quarter as high and half as long; progress is 1 − height. */
function easeByBounce(pool: Float64Array, at: number, io: Float64Array): void {
  const fall = pool[at + 2] as number;
  const x = io[0] as number;
  if (x < fall) {
    io[0] = (x / fall) * (x / fall);
    return;
  }
  let [start, time, height] = [fall, fall, 0.25];
  for (let k = 1; k < (pool[at + 1] as number) && x >= start + time; k++) {
    start += time;
    time /= 2;
    height /= 4;
  }
  const u = (2 * (x - start)) / time - 1;
  io[0] = 1 - height * Math.max(0, 1 - u * u);
}

/** Between the last stop at or before x and the next; beyond the ends their lines go on. */
function easeByStops(pool: Float64Array, at: number, io: Float64Array): void {
  const x = io[0] as number;
  const last = (pool[at + 1] as number) - 1;
  const place = (i: number) => pool[at + 2 + 2 * i] as number;
  const value = (i: number) => pool[at + 3 + 2 * i] as number;
  let i = 0;
  while (i < last - 1 && place(i + 1) <= x) i++;
  // Of stops at one place the last counts from there on.
  if (x >= place(last) && place(last) === place(last - 1)) io[0] = value(last);
  else if (place(i + 1) === place(i)) io[0] = value(x < place(i) ? i : i + 1);
  else io[0] = value(i) + ((value(i + 1) - value(i)) * (x - place(i))) / (place(i + 1) - place(i));
}

function easeByBezier(pool: Float64Array, at: number, io: Float64Array): void {
  const x = io[0] as number;
  const ax = pool[at] as number;
  const bx = pool[at + 1] as number;
  const cx = pool[at + 2] as number;
  let i = 0;
  // Four halvings of the sixteen intervals.
  for (let step = 8; step > 0; step >>= 1) if ((pool[at + 7 + i + step] as number) <= x) i += step;
  let lo = i / (TABLE - 1);
  let hi = (i + 1) / (TABLE - 1);
  const xLo = pool[at + 7 + i] as number;
  const xHi = pool[at + 8 + i] as number;
  let u = xHi > xLo ? lo + ((x - xLo) / (xHi - xLo)) * (hi - lo) : lo;
  // A step this small in u moves Y by less than 1e-11.
  const tiny = 1e-11 / ((pool[at + 6] as number) + 1);
  for (let n = 0; n < 64; n++) {
    const f = ((ax * u + bx) * u + cx) * u - x;
    if (f > 0) hi = u;
    else lo = u;
    const slope = (3 * ax * u + 2 * bx) * u + cx;
    let next = u - f / slope;
    // Where X is flat Newton may leave the bracket (or divide by 0): halve it instead.
    if (!(next > lo && next < hi)) next = f === 0 ? u : (lo + hi) / 2;
    const moved = Math.abs(next - u);
    u = next;
    if (moved < tiny) break;
  }
  io[0] = (((pool[at + 3] as number) * u + (pool[at + 4] as number)) * u + (pool[at + 5] as number)) * u;
}

const scratch = new Float64Array(CURVE);
const row = new Float64Array(EASE_ROW);

/** What progress x becomes: for drawing curves and for tests. `auto` is here as it is between two keys alone. */
export function easeAt(easing: Easing, x: number): number {
  if (easing === 'linear') return x;
  if (easing === 'hold') return x >= 1 ? 1 : 0;
  if (typeof easing === 'object' && 'linear' in easing)
    return evaluateCurve(compileStops(easing.linear), 0, x);
  writeEasing(row, 0, easing === 'auto' ? BETWEEN_TWO : easing);
  compileCurve(scratch, 0, row, 0);
  return evaluateCurve(scratch, 0, x);
}

/** Standing still at both ends. */
const BETWEEN_TWO: FadeEasing = { bezier: [1 / 3, 0, 2 / 3, 1] };
