/** The command line: validate, run, schema. Exit codes: 0 fine, 1 the piece falls short, 2 used wrongly. */
import { readFileSync, writeFileSync } from 'node:fs';
import { problemLine, TICKS_PER_SECOND, tickAtOrAfter, tickTime } from '@apple-tick/core/base';
import { isZip, readTickpack } from '@apple-tick/core/formats';
import { type Piece, pieceJsonSchema, readPiece } from '@apple-tick/core/model';
import { compile, findObject, type Input, inputsSchema, propertyValue, Run } from '@apple-tick/core/run';
import { Command } from 'commander';

class UsedWrongly extends Error {}

function readBytes(file: string): Uint8Array {
  try {
    return readFileSync(file);
  } catch {
    throw new UsedWrongly(`${file}: the file cannot be read.`);
  }
}

/** The piece of a file, which may be a text or a tickpack; null after telling what is wrong with it. */
function loadPiece(file: string): Piece | null {
  const bytes = readBytes(file);
  const pack = isZip(bytes) ? readTickpack(bytes) : null;
  if (pack?.ok) return pack.value.piece;
  const result = pack ?? readPiece(new TextDecoder().decode(bytes));
  if (result.ok) return result.value;
  for (const p of result.problems) process.stderr.write(`${problemLine(p)}\n`);
  return null;
}

function loadInputs(file: string | undefined): Input[] {
  if (file === undefined) return [];
  let json: unknown;
  try {
    json = JSON.parse(new TextDecoder().decode(readBytes(file)));
  } catch (e) {
    if (e instanceof UsedWrongly) throw e;
    throw new UsedWrongly(`${file}: the inputs are not valid JSON.`);
  }
  const parsed = inputsSchema.safeParse(json);
  if (parsed.success) return parsed.data;
  const first = parsed.error.issues[0];
  throw new UsedWrongly(`${file}: input ${first?.path.join('.') ?? ''} is not one that this version knows.`);
}

interface RunFlags {
  for: string;
  inputs?: string;
  seed?: string;
  trace?: string;
  pose: string[];
  every?: string;
}

/** Splits "Chute/Flap.rotation.x" into an object's number and a property. */
function poseReader(piece: Piece, run: Run, text: string): () => unknown {
  for (let dot = text.indexOf('.'); dot >= 0; dot = text.indexOf('.', dot + 1)) {
    const object = findObject(piece, text.slice(0, dot));
    const property = text.slice(dot + 1);
    const index = object ? (run.program.objectIndex.get(object.id) ?? -1) : -1;
    if (index >= 0 && propertyValue(run.program.base, index, property) !== null)
      return () => propertyValue(run.state.values, index, property);
  }
  throw new UsedWrongly(`--pose ${text}: there is no such object and property.`);
}

function positive(text: string, flag: string): number {
  const n = Number(text);
  if (!Number.isFinite(n) || n < 0)
    throw new UsedWrongly(`${flag} ${text}: this must be a number of 0 or more.`);
  return n;
}

function runPiece(file: string, flags: RunFlags): number {
  const ticks = Math.round(positive(flags.for, '--for') * TICKS_PER_SECOND);
  const every = flags.every === undefined ? null : positive(flags.every, '--every');
  const inputs = loadInputs(flags.inputs);
  const piece = loadPiece(file);
  if (!piece) return 1;
  const seed = flags.seed === undefined ? {} : { seed: positive(flags.seed, '--seed') };
  const run = new Run(compile(piece), seed);
  const poses = flags.pose.map((text) => ({ text, read: poseReader(piece, run, text) }));
  const byTick = new Map<number, Input[]>();
  for (const input of inputs.toSorted((a, b) => a.at - b.at)) {
    const tick = tickAtOrAfter(input.at);
    byTick.set(tick, [...(byTick.get(tick) ?? []), input]);
  }
  const lines: string[] = [];
  let poseCount = 0;
  for (let tick = 0; tick <= ticks; tick++) {
    run.step(byTick.get(tick));
    const records = run.takeTrace();
    if (flags.trace !== undefined) for (const r of records) lines.push(JSON.stringify(r));
    if (poses.length === 0 || (every !== null && tick < tickAtOrAfter(poseCount * every))) continue;
    poseCount++;
    const pose = Object.fromEntries(poses.map((p) => [p.text, p.read()]));
    lines.push(JSON.stringify({ t: tickTime(tick), pose }));
  }
  const text = lines.map((l) => `${l}\n`).join('');
  if (flags.trace !== undefined && flags.trace !== '-') writeFileSync(flags.trace, text);
  else process.stdout.write(text);
  return 0;
}

function main(): void {
  const program = new Command('apple-tick').exitOverride((e) => {
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
      process.stdout.write(`${JSON.stringify(pieceJsonSchema(), null, 2)}\n`);
    });
  try {
    program.parse();
  } catch (e) {
    if (!(e instanceof UsedWrongly)) throw e;
    process.stderr.write(`${e.message}\n`);
    process.exitCode = 2;
  }
}

main();
