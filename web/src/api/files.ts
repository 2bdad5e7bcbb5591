import { api, Failure, need, send as sendAs, type Schemas } from './client';

const MB = 1024 * 1024;
type Limit = 'largest_file' | 'largest_photo' | 'largest_bank';
type Answer<T> = { data?: T; error?: unknown; response: Response };

/** Told before it is sent: a browser may lose the server's refusal while it is still sending. */
async function fits(size: number, limit: Limit, refusal: (most: number) => string): Promise<void> {
  if (size < MB) return;
  const meta: Schemas['Meta'] = await need(api.GET('/api/meta'));
  if (size > meta[limit] * MB) throw new Failure(refusal(meta[limit]), 413);
}

async function send<T>(url: string, request: RequestInit, silent: string): Promise<Answer<T>> {
  let response: Response;
  try {
    response = await sendAs(new Request(url, request));
  } catch {
    throw new Failure(silent, 0);
  }
  const answer: unknown = await response.json().catch(() => ({}));
  return response.ok ? { data: answer as T, response } : { error: answer, response };
}

/** Sends a file or pasted text as it is. */
export async function postFile<T>(
  method: 'POST' | 'PUT',
  url: string,
  body: Blob | string,
  type: string,
): Promise<Answer<T>> {
  const size = typeof body === 'string' ? body.length : body.size;
  const limit = url === '/api/import' ? 'largest_bank' : 'largest_file';
  await fits(size, limit, (most) => {
    const said = `The file has ${Math.ceil(size / MB)} MB; up to ${most} MB are taken.`;
    return `${said} Split it by years. Nothing was changed.`;
  });
  const request = { method, body, headers: { 'content-type': type } };
  return send<T>(url, request, 'The server does not answer. Nothing was changed; try again.');
}

/** Sends a photograph as it is. */
export async function putPhoto(
  visit: string,
  photo: string,
  file: Blob,
  query: Record<string, string>,
): Promise<Answer<unknown>> {
  await fits(file.size, 'largest_photo', (most) => {
    const size = Math.ceil(file.size / MB);
    return `The photograph has ${size} MB; up to ${most} MB are taken. Nothing was changed.`;
  });
  const url = `/api/visits/${visit}/photos/${photo}?${new URLSearchParams(query).toString()}`;
  const headers = { 'content-type': file.type || 'application/octet-stream' };
  return send(
    url,
    { method: 'PUT', body: file, headers },
    'The server does not answer. The photograph is still on this device; try again.',
  );
}
