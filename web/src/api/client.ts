import createClient from 'openapi-fetch';
import type { components, paths } from './schema.gen';

export type Schemas = components['schemas'];

/** A failure a person can act on: the server's words, or that it does not answer. */
export class Failure extends Error {
  constructor(
    message: string,
    readonly status: number,
    readonly fields: Record<string, string> = {},
    readonly theirs: unknown = null,
  ) {
    super(message);
  }
}

/** The version that was seen, for what several people change. */
export const seen = (version: number | string): { 'If-Match': string } => ({ 'If-Match': `"${version}"` });

/** Who acts, as the server is told with every request. */
interface Actor {
  /** Id of the person, whose units the server speaks. */
  person: string;
  /** The device, as it calls itself. */
  device: string;
  /** Makes the person known to the server. */
  introduce: () => Promise<void>;
}
let actor: Actor = { person: '', device: '', introduce: () => Promise.resolve() };

/** Says who acts from now on. */
export function actAs(now: Actor): void {
  actor = now;
}

/** Sends a request in the name of who acts; somebody the server does not know introduces himself first. */
export async function send(request: Request): Promise<Response> {
  request.headers.set('rainshadow-person', actor.person);
  request.headers.set('rainshadow-device', encodeURIComponent(actor.device));
  const again = request.method === 'GET' ? null : request.clone();
  const response = await fetch(request);
  if (!again || response.status !== 422) return response;
  if (!(await response.clone().text()).includes('"rainshadow-person"')) return response;
  await actor.introduce();
  return fetch(again);
}

/** Sends a file as it is, however long that takes; who acts is named as with every request. */
export async function sendFile<T>(
  method: 'PUT' | 'POST',
  path: string,
  file: Blob,
  stop?: AbortSignal,
): Promise<T> {
  const request = (): Request =>
    new Request(path, {
      method,
      body: file,
      headers: { 'content-type': 'application/octet-stream' },
      signal: stop,
    });
  let response: Response;
  try {
    response = await send(request());
  } catch {
    throw new Failure(
      stop?.aborted
        ? 'Stopped; nothing of the file is kept.'
        : 'The server does not answer. The file was not taken; try again.',
      0,
    );
  }
  const body: unknown = response.ok ? await response.json() : await response.json().catch(() => ({}));
  return need(Promise.resolve(response.ok ? { data: body as T, response } : { error: body, response }));
}

/** An answer that did not come in so many milliseconds is not waited for; the demo takes its time. */
const PATIENCE = 15_000;
const PATIENCE_FOR_DEMO = 120_000;

export const api = createClient<paths>({
  baseUrl: '',
  fetch: async (request) => {
    const late = AbortSignal.timeout(request.url.endsWith('/api/demo') ? PATIENCE_FOR_DEMO : PATIENCE);
    try {
      return await send(new Request(request, { signal: AbortSignal.any([late, request.signal]) }));
    } catch {
      if (late.aborted)
        throw new Failure('No answer in 15 seconds. What you typed is still on screen; try again.', 0);
      throw new Failure('The server does not answer. What you typed is still on screen; try again.', 0);
    }
  },
});

/** The data of an answer, or the failure it tells of. */
export async function need<T>(call: Promise<{ data?: T; error?: unknown; response: Response }>): Promise<T> {
  const { data, error, response } = await call;
  if (response.ok) return data as T;
  const problem = (error ?? {}) as Partial<Schemas['Problem']>;
  const fields = Object.fromEntries((problem.errors ?? []).map((e) => [e.field, e.message]));
  throw new Failure(
    problem.detail ?? `The server failed (${response.status}).`,
    response.status,
    fields,
    problem.theirs,
  );
}
