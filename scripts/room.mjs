// Says, before anything is begun that needs it, that there is no room.
import { statfsSync } from 'node:fs';

/** One sentence when fewer than so many MB are free where `dir` is; null when there is room, or nobody can tell. */
export function noRoom(dir, megabytes, what) {
  try {
    const { bavail, bsize } = statfsSync(dir);
    const free = Math.floor((bavail * bsize) / 1e6);
    return free < megabytes
      ? `There is no room for ${what}: about ${megabytes} MB are needed and ${free} MB are free.`
      : null;
  } catch {
    return null;
  }
}
