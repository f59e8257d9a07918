import type { FastifyInstance } from 'fastify';
import { AppError } from './errors';

/** Nothing that we are sent lies deeper than some ten levels. */
const DEEPEST = 32;

/**
 * Reads JSON bodies, and refuses at the door what would break further inside: nesting so deep that walking it
 * overflows, and text that a database can't hold (NUL, halves of surrogate pairs).
 */
export function readJsonBodies(app: FastifyInstance): void {
  const parse = app.getDefaultJsonParser('error', 'error');
  app.addContentTypeParser('application/json', { parseAs: 'string' }, (request, body, done) => {
    const text = body as string;
    if (depthOf(text) > DEEPEST)
      return done(new AppError('BAD_REQUEST', `The request is nested more than ${DEEPEST} levels deep.`));
    void parse(request, text, (error: Error | null, value?: unknown) => {
      if (error) return done(new AppError('BAD_REQUEST', `The request is no JSON: ${error.message}`));
      const bad = badText(value, 'request');
      if (bad) return done(new AppError('BAD_REQUEST', `${bad}: the text holds characters that can't be stored.`));
      done(null, value);
    });
  });
}

/** How deep arrays and objects lie in each other; text in quotes does not count. */
export function depthOf(json: string): number {
  let depth = 0;
  let deepest = 0;
  let quoted = false;
  for (let i = 0; i < json.length; i++) {
    const sign = json[i];
    if (quoted) {
      if (sign === '\\') i++;
      else if (sign === '"') quoted = false;
    } else if (sign === '"') quoted = true;
    else if (sign === '{' || sign === '[') deepest = Math.max(deepest, ++depth);
    else if (sign === '}' || sign === ']') depth--;
  }
  return deepest;
}

/** Where a value holds text that can't be stored, or null. */
function badText(value: unknown, path: string): string | null {
  if (typeof value === 'string') return isStorable(value) ? null : path;
  if (typeof value !== 'object' || value === null) return null;
  for (const [key, item] of Object.entries(value)) {
    if (!isStorable(key)) return path;
    const bad = badText(item, path === 'request' ? key : `${path}.${key}`);
    if (bad) return bad;
  }
  return null;
}

/** Neither NUL nor half of a surrogate pair. */
const isStorable = (text: string): boolean => !text.includes('\0') && !/\p{Surrogate}/u.test(text);
