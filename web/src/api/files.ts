import { Failure } from './client';

/** As large as the server reads; it says the same, but a browser may lose its answer while it sends. */
const LARGEST_MB = 8;

/** Sends a file or pasted text as it is. */
export async function postFile<T>(
  method: 'POST' | 'PUT',
  url: string,
  body: Blob | string,
  type: string,
): Promise<{ data?: T; error?: unknown; response: Response }> {
  const size = typeof body === 'string' ? body.length : body.size;
  if (size > LARGEST_MB * 1024 * 1024) {
    throw new Failure(
      `The file has ${Math.ceil(size / 1024 / 1024)} MB; up to ${LARGEST_MB} MB are taken. Split it by years. Nothing was changed.`,
      413,
    );
  }
  let response: Response;
  try {
    response = await fetch(url, { method, body, headers: { 'content-type': type } });
  } catch {
    throw new Failure('The server does not answer. Nothing was changed; try again.', 0);
  }
  const answer: unknown = await response.json().catch(() => ({}));
  return response.ok ? { data: answer as T, response } : { error: answer, response };
}
