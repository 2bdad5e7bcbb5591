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

let person = '';

/** Names the person whose units the server speaks. */
export function speakTo(id: string): void {
  person = id;
}

export const api = createClient<paths>({
  baseUrl: '',
  fetch: async (request) => {
    if (person) request.headers.set('rainshadow-person', person);
    try {
      return await fetch(request);
    } catch {
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
