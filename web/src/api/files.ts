import { api, Failure, need } from './client';

const MB = 1024 * 1024;

/** Told before it is sent: a browser may lose the server's refusal while it is still sending. */
async function fits(body: Blob | string, url: string): Promise<void> {
  const size = typeof body === 'string' ? body.length : body.size;
  if (size < MB) return;
  const { largest_file, largest_bank } = await need(api.GET('/api/meta'));
  const most = url === '/api/import' ? largest_bank : largest_file;
  if (size > most * MB) {
    const said = `The file has ${Math.ceil(size / MB)} MB; up to ${most} MB are taken.`;
    throw new Failure(`${said} Split it by years. Nothing was changed.`, 413);
  }
}

/** Sends a file or pasted text as it is. */
export async function postFile<T>(
  method: 'POST' | 'PUT',
  url: string,
  body: Blob | string,
  type: string,
): Promise<{ data?: T; error?: unknown; response: Response }> {
  await fits(body, url);
  let response: Response;
  try {
    response = await fetch(url, { method, body, headers: { 'content-type': type } });
  } catch {
    throw new Failure('The server does not answer. Nothing was changed; try again.', 0);
  }
  const answer: unknown = await response.json().catch(() => ({}));
  return response.ok ? { data: answer as T, response } : { error: answer, response };
}

/** Sends a photograph as it is. */
export async function putPhoto(
  visit: string,
  photo: string,
  file: Blob,
  query: Record<string, string>,
): Promise<{ data?: unknown; error?: unknown; response: Response }> {
  const most = 25;
  if (file.size > most * MB) {
    const size = Math.ceil(file.size / MB);
    throw new Failure(`The photograph has ${size} MB; up to ${most} MB are taken. Nothing was changed.`, 413);
  }
  let response: Response;
  try {
    response = await fetch(`/api/visits/${visit}/photos/${photo}?${new URLSearchParams(query).toString()}`, {
      method: 'PUT',
      body: file,
      headers: { 'content-type': file.type || 'application/octet-stream' },
    });
  } catch {
    throw new Failure('The server does not answer. The photograph is still on this device; try again.', 0);
  }
  const answer: unknown = await response.json().catch(() => ({}));
  return response.ok ? { data: answer, response } : { error: answer, response };
}
