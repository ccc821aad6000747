/** How many numbers the state has for a tween, a motor, and a place where something may be spawned. */

/** Whether it is under way, instant of its start, seconds, value that it comes from, goal, curve (−1 hold, −2 linear, else its place), which tweening of all it is of. */
export const TWEEN_ROW = 7;
/** What it is, instant since which the rest holds, what was added by then, rate, acceleration, limit. */
export const MOTOR_ROW = 6;
/** Of a place where something may be spawned: whether something is, which of all of its template, since when, where its base is (x, y, z), and the number of the first scheduled item that can be of it. */
export const SPAWN_ROW = 7;
