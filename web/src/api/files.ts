import { Failure } from './client';

/** Sends a file or pasted text as it is. */
export async function postFile<T>(
  method: 'POST' | 'PUT',
  url: string,
  body: Blob | string,
  type: string,
): Promise<{ data?: T; error?: unknown; response: Response }> {
  let response: Response;
  try {
    response = await fetch(url, { method, body, headers: { 'content-type': type } });
  } catch {
    throw new Failure(
      'The server does not answer, or refused a file this large. Nothing was changed; try again.',
      0,
    );
  }
  const answer: unknown = await response.json().catch(() => ({}));
  return response.ok ? { data: answer as T, response } : { error: answer, response };
}
