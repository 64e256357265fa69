import { counted, wordFor } from '../core/quantity/format.ts';
import type { FieldProblem } from '../core/record/plan-context.ts';

/** A refusal in the form of RFC 9457, problem details for HTTP APIs. */
export class Problem extends Error {
  constructor(
    readonly status: 400 | 403 | 404 | 405 | 409 | 413 | 415 | 416 | 421 | 422 | 500 | 507,
    /** What kind of refusal it is, in a few words. */
    readonly title: string,
    /** One sentence that a tester understands. */
    readonly detail: string,
    readonly extra: { errors?: FieldProblem[]; current?: unknown } = {},
  ) {
    super(detail);
    this.name = 'Problem';
  }

  body() {
    return {
      type: 'about:blank',
      title: this.title,
      status: this.status,
      detail: this.detail,
      ...this.extra,
    };
  }
}

export const notFound = (word: string) => new Problem(404, 'Not found', `There is no ${word} with this id.`);

/** The most problems that one answer lists. */
const MOST = 20;

export function invalid(errors: readonly FieldProblem[]): Problem {
  const first = errors[0];
  const others = errors.length - 1;
  const more = others > 0 ? ` ${counted(others, 'more thing')} ${wordFor(others, 'is', 'are')} wrong.` : '';
  const where = first && first.path !== '' ? ` (${first.path})` : '';
  return new Problem(422, 'Not valid', `${first?.message ?? 'Something is wrong.'}${where}${more}`, {
    errors: errors.slice(0, MOST),
  });
}

/** All that an error says of itself, its code and what is beneath it too, to tell what it is about. */
export function saidBy(error: unknown): string {
  const {
    code = '',
    message = '',
    original,
  } = error as { code?: string; message?: string; original?: Error };
  return `${code} ${message} ${original?.message ?? ''}`;
}

/** What a full disk is called by the operating system. */
export const DISK_FULL = /ENOSPC/;
