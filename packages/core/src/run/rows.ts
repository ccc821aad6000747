/** How many numbers the state has for a tween, and for a motor. */

/** Whether it is under way, date of its start, seconds, value that it comes from, goal, curve (−1 hold, −2 linear, else its place). */
export const TWEEN_ROW = 6;
/** What it is, date since which the rest holds, what was added by then, rate, acceleration, limit. */
export const MOTOR_ROW = 6;
