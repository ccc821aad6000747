// Runs a command as a child that ends with its parent: whoever stops the one stops the other.
import { spawn } from 'node:child_process';

/** The exit code of a command; 127 when it could not be begun. What it prints is seen. */
export function runChild(command, args, options = {}) {
  return new Promise((done) => {
    // A group of its own, so that its own children end with it, too.
    const own = process.platform !== 'win32';
    const child = spawn(command, args, { stdio: 'inherit', detached: own, ...options });
    const end = (signal) => {
      try {
        process.kill(own ? -child.pid : child.pid, signal);
      } catch {
        // It has ended by itself.
      }
    };
    const stop = (signal) => {
      end(signal);
      process.exit(1);
    };
    const signals = ['SIGINT', 'SIGTERM', 'SIGHUP'];
    for (const s of signals) process.on(s, stop);
    const over = (code) => {
      for (const s of signals) process.off(s, stop);
      done(code);
    };
    child.on('error', () => over(127));
    child.on('exit', (code) => over(code ?? 1));
  });
}
