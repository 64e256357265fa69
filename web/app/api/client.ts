import { heardServer, missedServer } from './contact.ts';

/** A refusal by the server, with its sentence and the fields that it is about. */
export class Refusal extends Error {
  constructor(
    readonly status: number,
    readonly detail: string,
    readonly errors: readonly { path: string; message: string }[] = [],
    /** The part as it is on the server, where an edit was stale. */
    readonly current?: unknown,
  ) {
    super(detail);
    this.name = 'Refusal';
  }
}

/** The server could not be reached, or broke off. */
export class ServerAway extends Error {
  constructor() {
    super('The server is away.');
    this.name = 'ServerAway';
  }
}

export const API = '/api/v1';

/** Longest body that is sent on after its page was left, in characters; some take three bytes. */
const KEPT_ALIVE = 20000;

type Method = 'GET' | 'POST' | 'PUT' | 'PATCH' | 'DELETE';

/** One request to the API; what it answers, as the caller expects it. */
export const request = async <T>(
  method: Method,
  path: string,
  body?: unknown,
  type?: string,
  signal?: AbortSignal,
): Promise<T> => (await answerWithHeaders<T>(method, path, body, type, signal)).answer;

/** Sends one request. @throws ServerAway where no answer comes from the server itself */
async function sent(
  method: Method,
  path: string,
  body?: unknown,
  type = 'application/json',
  signal?: AbortSignal,
): Promise<Response> {
  // A file goes as it is; everything else is JSON.
  const content = body === undefined || body instanceof Blob ? body : JSON.stringify(body);
  let response: Response;
  try {
    response = await fetch(`${API}${path}`, {
      method,
      ...(signal ? { signal } : {}),
      // An edit that is under way when the page is left still arrives, as far as browsers let it (64 kB).
      keepalive: method === 'PATCH' && typeof content === 'string' && content.length < KEPT_ALIVE,
      ...(content === undefined ? {} : { headers: { 'Content-Type': type }, body: content }),
    });
  } catch {
    if (!signal?.aborted) missedServer();
    throw new ServerAway();
  }
  // 507 is the server's own: it is there, and cannot store.
  if (response.status >= 502 && response.status !== 507) {
    missedServer();
    throw new ServerAway();
  }
  heardServer();
  return response;
}

async function jsonOf(response: Response): Promise<unknown> {
  let answer: unknown;
  try {
    answer = await response.json();
  } catch {
    throw new ServerAway();
  }
  if (!response.ok) {
    const { detail, errors, current } = answer as Partial<Refusal>;
    throw new Refusal(response.status, detail ?? 'The server refused this.', errors, current);
  }
  return answer;
}

/** One request to the API, with the headers of its answer. */
export async function answerWithHeaders<T>(
  ...asked: Parameters<typeof sent>
): Promise<{ answer: T; headers: Headers }> {
  const response = await sent(...asked);
  const { headers } = response;
  return { answer: (response.status === 204 ? undefined : await jsonOf(response)) as T, headers };
}

/** A file that the server gives, and what it calls it. */
export async function fileFrom(path: string, signal: AbortSignal): Promise<{ file: Blob; name: string }> {
  const response = await sent('GET', path, undefined, undefined, signal);
  if (!response.ok) await jsonOf(response);
  const name = /filename="([^"]+)"/.exec(response.headers.get('Content-Disposition') ?? '')?.[1] ?? 'file';
  try {
    return { file: await response.blob(), name };
  } catch {
    throw new ServerAway();
  }
}

/** Why a change failed, in a message that stands alone. */
export function failureText(error: unknown): string {
  if (error instanceof ServerAway) return 'The server is away; try it again when it is back.';
  if (error instanceof Refusal) return error.detail;
  return problemText(error);
}

/** What to tell the tester of something that went wrong, beside the field that it is about. */
export function problemText(error: unknown): string {
  if (error instanceof Refusal) return error.errors[0]?.message ?? error.detail;
  if (error instanceof ServerAway) return 'The server is away. What you typed is still here.';
  return error instanceof Error ? error.message : String(error);
}
