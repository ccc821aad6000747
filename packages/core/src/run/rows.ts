/** How many numbers the state has for a tween, a motor, a follow, and what can be dragged. */

/** Whether it is under way, date of its start, seconds, value that it comes from, goal, curve (−1 hold, −2 linear, else its place), which tweening of all it is of. */
export const TWEEN_ROW = 7;
/** What it is, date since which the rest holds, what was added by then, rate, acceleration, limit. */
export const MOTOR_ROW = 6;
/** Whether it has begun, where it stands, the source's number then. */
export const FOLLOW_ROW = 3;
/** Of what may meet another: its matrix in the world and the place of its pivot at the last noticing, whether it counted, whether it has jumped since, before this tick and in it. */
export const NODE_ROW = 18;
/** An effect that is under way: its number, what it is at (−1: the frame), date of its start, of a burst which it is and where it began (x, y, z), whether that is in the frame, of a flash whether it is shown. */
export const SHOW_ROW = 9;
/** A caption, or one that waits: the object, number of its words, seconds (−1: no end), number of its answers or −1, which it is of all, the record that asked for it, whether it stands, and the date since which. */
export const CAPTION_ROW = 8;
/** Of a cue sheet: whether it runs, which of its rounds this is, how many askings wait, the round that has ended and pauses, its start. */
export const SHEET_ROW = 5;
/** Of a cue of one: what has become of it, and its record. */
export const CUE_ROW = 2;
/** Of an action of a cue: the date at which it acted or −1, and what tells what it began from others. */
export const CUE_ACT_ROW = 2;
/** Of a body or a blocker in the last published pose: where its pivot, or the middle of its corners, was in the world; of a blocker whether it counted, of a body 1 + the number of its object. */
export const STOOD_ROW = 4;
/** Of a place where something may be spawned: whether something is, which of all of its template, since when, where its base is (x, y, z), and the number of the first due that can be of it. */
export const SPAWN_ROW = 7;
/** Way from base along x, y, z; where it stood when it was taken hold of, x, y, z; date since which it goes back, or −1. */
export const DRAG_ROW = 7;
