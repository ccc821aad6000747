/** The command line: validate, run, schema. Exit codes: 0 fine, 1 the piece falls short, 2 used wrongly. */
import { readFileSync, realpathSync } from 'node:fs';
import { problemLine, TICKS_PER_SECOND, tickAtOrAfter, tickTime } from '@apple-tick/core/base';
import { pieceJsonSchema, readInput, readPiece } from '@apple-tick/core/check';
import { isZip, readTickpack } from '@apple-tick/core/formats';
import type { Piece } from '@apple-tick/core/model';
import { compile, type Input, poseReader, Run } from '@apple-tick/core/run';
import { Command } from 'commander';
import { Lines, plainText, systemReason, Unheard, UsedWrongly } from './output.ts';

/** A day of ticks is as long as a run may be. */
const MAX_SECONDS = 86400;
/** Commands that are settled but not built yet. */
const LATER_COMMANDS = ['snags', 'check', 'export'];
const MAX_INPUT_BYTES = 64 * 1024 * 1024;

function readBytes(file: string): Uint8Array {
  try {
    return readFileSync(file);
  } catch (e) {
    throw new UsedWrongly(`${file}: cannot be read, ${systemReason(e)}.`);
  }
}

/** The piece of a file, which may be a text or a tickpack; null after telling what is wrong with it. */
function loadPiece(file: string): Piece | null {
  const bytes = readBytes(file);
  const pack = isZip(bytes) ? readTickpack(bytes) : null;
  if (pack?.ok) return pack.value.piece;
  const result = pack ?? readPiece(new TextDecoder().decode(bytes));
  if (result.ok) return result.value;
  for (const p of result.problems) tell(`${file}: ${problemLine(p)}`);
  return null;
}

/** The first input that is not one is told; a list of 300,000 wrong ones is not gone through. */
function loadInputs(file: string | undefined): Input[] {
  if (file === undefined) return [];
  const bytes = readBytes(file);
  if (bytes.length > MAX_INPUT_BYTES) throw new UsedWrongly(`${file}: the inputs are larger than 64 MB.`);
  let json: unknown;
  try {
    json = JSON.parse(new TextDecoder().decode(bytes));
  } catch {
    throw new UsedWrongly(`${file}: the inputs are not valid JSON.`);
  }
  if (!Array.isArray(json)) throw new UsedWrongly(`${file}: the inputs must be a list.`);
  return json.map((entry, i) => {
    const input = readInput(entry);
    if (input) return input;
    throw new UsedWrongly(`${file}: input [${i}] is not one that this version knows.`);
  });
}

interface RunFlags {
  for: string;
  inputs?: string;
  seed?: string;
  trace?: string;
  pose: string[];
  every?: string;
}

function readerFor(run: Run, text: string): () => unknown {
  const reader = poseReader(run, text);
  if (!reader) throw new UsedWrongly(`--pose ${text}: there is no such object and property.`);
  return reader;
}

/** The number that a flag gives, from 0 to `hi`. */
function numberOf(text: string, flag: string, hi: number, whole = false): number {
  const n = text.trim() === '' ? Number.NaN : Number(text);
  if (!(n >= 0 && n <= hi) || (whole && !Number.isInteger(n)))
    throw new UsedWrongly(
      `${flag} "${text}": this must be a ${whole ? 'whole ' : ''}number from 0 to ${hi}.`,
    );
  return n;
}

/** Whether two paths lead to one file. */
function isSameFile(a: string, b: string): boolean {
  try {
    return realpathSync(a) === realpathSync(b);
  } catch {
    return false;
  }
}

function runPiece(file: string, flags: RunFlags): number {
  const ticks = Math.round(numberOf(flags.for, '--for', MAX_SECONDS) * TICKS_PER_SECOND);
  const every = flags.every === undefined ? null : numberOf(flags.every, '--every', MAX_SECONDS);
  const seed = flags.seed === undefined ? {} : { seed: numberOf(flags.seed, '--seed', 4294967295, true) };
  const inputs = loadInputs(flags.inputs);
  const piece = loadPiece(file);
  if (!piece) return 1;
  const moved = inputs.flatMap((i) => ('move' in i ? [i.move.object] : []));
  const run = new Run(compile(piece, moved), seed);
  const poses = flags.pose.map((text) => ({ text, read: readerFor(run, text) }));
  const byTick = new Map<number, Input[]>();
  for (const input of inputs.toSorted((a, b) => a.at - b.at)) {
    const tick = tickAtOrAfter(input.at);
    const list = byTick.get(tick);
    if (list) list.push(input);
    else byTick.set(tick, [input]);
  }
  for (const [read, what] of [
    [file, 'the piece itself'],
    [flags.inputs, 'the list of inputs'],
  ] as const)
    if (read !== undefined && flags.trace !== undefined && isSameFile(flags.trace, read))
      throw new UsedWrongly(`--trace ${flags.trace}: that is ${what}, which would be written over.`);
  const lines = new Lines(flags.trace === undefined || flags.trace === '-' ? null : flags.trace);
  let poseCount = 0;
  for (let tick = 0; tick <= ticks; tick++) {
    run.step(byTick.get(tick));
    const records = run.takeTrace();
    if (flags.trace !== undefined) for (const r of records) lines.line(JSON.stringify(r));
    if (poses.length === 0 || (every !== null && tick < tickAtOrAfter(poseCount * every))) continue;
    poseCount++;
    const pose = Object.fromEntries(poses.map((p) => [p.text, p.read()]));
    lines.line(JSON.stringify({ t: tickTime(tick), pose }));
  }
  lines.close();
  return 0;
}

/** One sentence to standard error. */
function tell(sentence: string): void {
  process.stderr.write(`${plainText(sentence)}\n`);
}

/** Ends with one sentence, whatever went wrong: a stack trace tells a person nothing. */
function failed(e: unknown): void {
  if (e instanceof Unheard) return;
  process.exitCode = 2;
  if (e instanceof UsedWrongly) tell(e.message);
  else if (e instanceof RangeError) tell('The piece is larger than this machine can work with.');
  else tell(`Something is wrong with this program: ${e instanceof Error ? e.message : String(e)}`);
}

function main(): void {
  // What is told after whoever read it has gone is lost, not an error.
  for (const stream of [process.stdout, process.stderr]) stream.on('error', () => {});
  const program = new Command('apple-tick')
    .configureOutput({ writeErr: (text) => tell(text.trim()) })
    .exitOverride((e) => {
      process.exit(e.exitCode === 0 ? 0 : 2);
    });
  program
    .command('validate <file>')
    .description('problems, one a line')
    .action((file: string) => {
      process.exitCode = loadPiece(file) ? 0 : 1;
    });
  program
    .command('run <file>')
    .description('runs a piece and writes what happened')
    .option('--for <seconds>', 'how long, rounded to whole ticks', '5')
    .option('--inputs <file>', 'a JSON list of inputs')
    .option('--seed <n>', 'instead of the seed of the piece')
    .option('--trace <file>', 'NDJSON of what happened; - for standard output')
    .option('--pose <property>', 'may be repeated', (v: string, all: string[]) => [...all, v], [])
    .option('--every <seconds>', 'how often poses are written; each tick when left out')
    .action((file: string, flags: RunFlags) => {
      process.exitCode = runPiece(file, flags);
    });
  program
    .command('schema')
    .description('JSON Schema of the file')
    .action(() => {
      const lines = new Lines(null);
      for (const l of JSON.stringify(pieceJsonSchema(), null, 2).split('\n')) lines.line(l);
      lines.close();
    });
  for (const name of LATER_COMMANDS)
    program
      .command(name, { hidden: true })
      .allowUnknownOption()
      .allowExcessArguments()
      .action(() => {
        throw new UsedWrongly(`${name} comes later: this version does not have it.`);
      });
  try {
    program.parse();
  } catch (e) {
    failed(e);
  }
}

main();
