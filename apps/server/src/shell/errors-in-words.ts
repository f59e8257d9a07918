import { types } from 'node:util';

/** The longest line that an error makes in the log. */
const LONGEST = 400;
type CodedError = Error & { code?: string };

/** An error and what caused it, and what caused that. */
export function* causes(error: unknown): Generator<CodedError> {
  for (let at = error; types.isNativeError(at); at = at.cause) yield at;
}

/**
 * What an error says, in one bounded line. A failed query carries all its parameters in its message
 * (a stored piece has megabytes): what the database itself said is told instead.
 */
export function shortMessage(error: unknown): string {
  const text = String([...causes(error)].at(-1)?.message ?? error)
    .replace(/\s+/g, ' ')
    .trim();
  return text.length > LONGEST ? `${text.slice(0, LONGEST)} …` : text;
}

/** Codes of connections that break off, and PostgreSQL's own: five characters, one of them a digit at least. */
const BROKEN = /^(ECONNREFUSED|ECONNRESET|EPIPE|ETIMEDOUT|ENOTFOUND|(?=.*\d)[0-9A-Z]{5})$/;
const BROKEN_WORDS =
  /^Failed query|Connection terminated|connection to the database was lost|not queryable|timeout exceeded when trying to connect|Query read timeout|timeout expired/;

/** Whether the database refused something or went away: nothing that the footage is to blame for. */
export function isDatabaseError(error: unknown): boolean {
  return [...causes(error)].some(({ code = '', message }) => BROKEN.test(code) || BROKEN_WORDS.test(message));
}

/** Whether the database refused a value that it can't hold (PostgreSQL's class 22). */
export const isBadValue = (error: unknown): boolean =>
  [...causes(error)].some(({ code }) => /^22...$/.test(code ?? ''));

/** Whether something belongs to what was deleted meanwhile (PostgreSQL's foreign key violation). */
export const isOfNobody = (error: unknown): boolean => [...causes(error)].some(({ code }) => code === '23503');
