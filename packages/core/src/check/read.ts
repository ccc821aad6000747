/** Text → piece, or a list of problems with their places. Nothing else of the program reads pieces. */
import { createScanner, type ParseErrorCode, printParseErrorCode, visit } from 'jsonc-parser';
import type { z } from 'zod';
import { failed, type Problem, type Result } from '../base/result.ts';
import { FORMAT_VERSION, type Piece, pieceSchema } from '../model/index.ts';
import { checkIntegrity } from './integrity.ts';
import { findLater } from './later.ts';
import { migrate } from './migrate.ts';
import { toZod } from './to-zod.ts';

/** Characters of JSON that are read at most; a piece of 2,000 objects and 50,000 keys takes about 6 million. */
export const MAX_TEXT = 64 * 1024 * 1024;
const MAX_DEPTH = 100;
const MAX_PROBLEMS = 100;

export function readPiece(text: string): Result<Piece> {
  if (text.length > MAX_TEXT) return failed(tooLarge());
  let json: unknown;
  try {
    json = JSON.parse(text);
  } catch {
    return failed(syntaxProblem(text));
  }
  return readPieceJson(json);
}

export function tooLarge(): Problem {
  return { code: 'size', path: '', message: 'The file is larger than 64 MB, more than any piece needs.' };
}

/** The same for data that is already parsed. `json` may be changed by migrations. */
export function readPieceJson(json: unknown): Result<Piece> {
  if (typeof json !== 'object' || json === null || Array.isArray(json))
    return failed({ code: 'format', path: '', message: 'The file does not hold a piece.' });
  const danger = findDanger(json);
  if (danger) return failed(danger);
  const file = json as Record<string, unknown>;
  if (file['format'] !== 'apple-tick')
    return failed({ code: 'format', path: 'format', message: 'This is not a piece made with Apple Tick.' });
  const version = file['version'];
  if (typeof version !== 'number' || !Number.isInteger(version) || version < 0)
    return failed({ code: 'version', path: 'version', message: 'The version must be a whole number.' });
  if (version > FORMAT_VERSION)
    return failed({
      code: 'version',
      path: 'version',
      message: `The file was made by a newer Apple Tick (version ${version}; this one reads up to ${FORMAT_VERSION}).`,
    });
  migrate(file);
  const parsed = toZod(pieceSchema).safeParse(file);
  if (!parsed.success) return failed(...refusal(file, parsed.error.issues));
  const problems = checkIntegrity(parsed.data);
  return problems.length > 0 ? failed(...problems.slice(0, MAX_PROBLEMS)) : { ok: true, value: parsed.data };
}

/** What is wrong with a file that the schema refuses; what only comes later is said by its name, once. */
function refusal(file: Record<string, unknown>, issues: readonly Issue[]): Problem[] {
  const later = findLater(file);
  const told = (path: string) =>
    later.some(({ within: w }) => path === w || path.startsWith(`${w}.`) || path.startsWith(`${w}[`));
  const others = schemaProblems(issues).filter((p) => !told(p.path));
  return [...later.map((l) => l.problem), ...others].slice(0, MAX_PROBLEMS);
}

const DANGEROUS = new Set(['__proto__', 'constructor', 'prototype']);

/** Keys that could reach an object's prototype, and nesting that could overflow a stack. */
export function findDanger(root: object): Problem | null {
  const stack: { value: object; path: string; depth: number }[] = [{ value: root, path: '', depth: 0 }];
  for (let top = stack.pop(); top; top = stack.pop()) {
    const isList = Array.isArray(top.value);
    for (const key of Object.keys(top.value)) {
      const path = isList ? `${top.path}[${key}]` : top.path === '' ? key : `${top.path}.${key}`;
      if (!isList && DANGEROUS.has(key))
        return { code: 'key', path, message: `The name "${key}" is not allowed as a key.` };
      const child = (top.value as Record<string, unknown>)[key];
      if (typeof child === 'object' && child !== null) {
        if (top.depth >= MAX_DEPTH)
          return { code: 'depth', path: top.path, message: 'The file is nested too deeply.' };
        stack.push({ value: child, path, depth: top.depth + 1 });
      }
    }
  }
  return null;
}

/** Finds the first place where the text stops being JSON; used only when `JSON.parse` has refused it. */
function syntaxProblem(text: string): Problem {
  const stop = new Error('found');
  let offset = text.length;
  let code: ParseErrorCode | null = null;
  // Nesting is looked at first: the visitor below is recursive.
  if (nestsDeeply(text)) return { code: 'depth', path: '', message: 'The file is nested too deeply.' };
  try {
    visit(
      text,
      {
        onError: (error, at) => {
          code = error;
          offset = at;
          throw stop;
        },
      },
      { disallowComments: true, allowEmptyContent: false, allowTrailingComma: false },
    );
  } catch (e) {
    if (e !== stop) throw e;
  }
  const before = text.slice(0, offset);
  const line = before.split('\n').length;
  const column = offset - before.lastIndexOf('\n');
  const what = code === null ? '' : ` (${splitWords(printParseErrorCode(code))})`;
  return {
    code: 'json',
    path: `line ${line}, column ${column}`,
    message: `The file is not valid JSON${what}.`,
  };
}

function nestsDeeply(text: string): boolean {
  const scanner = createScanner(text, true);
  let depth = 0;
  for (let token = scanner.scan(); ; token = scanner.scan()) {
    if (scanner.getTokenError() !== 0) return false;
    // 1 and 3 open, 2 and 4 close, 16 is unknown, 17 the end (jsonc-parser's SyntaxKind).
    if (token === 1 || token === 3) depth++;
    else if (token === 2 || token === 4) depth--;
    if (depth > MAX_DEPTH * 2) return true;
    if (token === 16 || token === 17) return false;
  }
}

const splitWords = (s: string) => s.replace(/([a-z])([A-Z])/g, '$1 $2').toLowerCase();

type Issue = z.core.$ZodIssue;

export function schemaProblems(issues: readonly Issue[], base: readonly PropertyKey[] = []): Problem[] {
  const out: Problem[] = [];
  for (const issue of issues) {
    const path = [...base, ...issue.path];
    if (issue.code === 'invalid_union' && issue.errors.length > 0) {
      out.push(...unionProblems(issue, path));
    } else if (issue.code === 'unrecognized_keys') {
      for (const key of issue.keys)
        out.push({ code: 'key', path: pathText([...path, key]), message: 'This field is not known here.' });
    } else if (issue.code === 'invalid_key') {
      out.push({ code: 'id', path: pathText(path), message: 'This key is not an id such as "ob_x7k2".' });
    } else {
      out.push({ code: 'type', path: pathText(path), message: sentence(issue) });
    }
    if (out.length >= MAX_PROBLEMS) break;
  }
  return out.slice(0, MAX_PROBLEMS);
}

/** Of a union's branches the one that got furthest tells most; when none got anywhere, one general sentence. */
function unionProblems(issue: Extract<Issue, { code: 'invalid_union' }>, path: PropertyKey[]): Problem[] {
  const general = {
    code: 'type',
    path: pathText(path),
    message: 'The value has none of the forms that belong here.',
  };
  let best: readonly Issue[] | null = null;
  for (const branch of issue.errors) {
    const deep = branch.every(
      (i) => i.path.length > 0 || i.code === 'custom' || i.code === 'unrecognized_keys',
    );
    if (deep && (best === null || branch.length < best.length)) best = branch as readonly Issue[];
  }
  return best ? schemaProblems(best, path) : [general];
}

function sentence(issue: Issue): string {
  switch (issue.code) {
    case 'invalid_type': {
      if (issue.input === undefined && issue.message.includes('undefined')) return 'This field is missing.';
      if (typeof issue.input === 'number') return 'The number must be finite.';
      return `This must be ${article(issue.expected)}.`;
    }
    case 'too_big':
    case 'too_small':
      return issue.message.startsWith('Too')
        ? `The value is too ${issue.code === 'too_big' ? 'large' : 'small'}.`
        : `The value ${issue.message}.`;
    case 'invalid_value':
      return issue.message.startsWith('Invalid')
        ? `The value must be ${issue.values.map((v) => JSON.stringify(v)).join(' or ')}.`
        : `The value ${issue.message}.`;
    case 'invalid_union':
      return 'The value is not one of those that belong here.';
    default:
      return issue.message.startsWith('Invalid')
        ? 'The value does not belong here.'
        : `The value ${issue.message}.`;
  }
}

function article(type: string): string {
  const word = { int: 'whole number', boolean: 'yes or no value', string: 'text', object: 'group of fields' }[
    type
  ];
  if (type === 'string') return 'text';
  if (type === 'null' || type === 'never') return 'left empty';
  const noun = word ?? type;
  return `${/^[aeiou]/.test(noun) ? 'an' : 'a'} ${noun}`;
}

function pathText(path: readonly PropertyKey[]): string {
  let out = '';
  for (const p of path) out += typeof p === 'number' ? `[${p}]` : out === '' ? String(p) : `.${String(p)}`;
  return out;
}
