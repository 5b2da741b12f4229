import createClient from 'openapi-fetch';
import type { components, paths } from './schema';

export type Schemas = components['schemas'];

/** What the server says when something can't be done (RFC 9457). */
export class Problem extends Error {
  constructor(
    readonly status: number,
    detail: string,
    readonly field?: string
  ) {
    super(detail);
  }
}

const token = () =>
  document.cookie
    .split('; ')
    .find((c) => c.startsWith('XSRF-TOKEN='))
    ?.slice('XSRF-TOKEN='.length) ?? '';

export const api = createClient<paths>({ baseUrl: location.origin });

api.use({
  onRequest({ request }) {
    if (request.method !== 'GET') request.headers.set('X-XSRF-TOKEN', decodeURIComponent(token()));
    return request;
  }
});

interface Answer<T> {
  data?: T;
  error?: unknown;
  response: Response;
}

/** The answer's data, or a Problem thrown. */
export async function get<T>(answer: Promise<Answer<T>>): Promise<T> {
  let got: Answer<T>;
  try {
    got = await answer;
  } catch {
    throw new Problem(0, 'Ordinator does not answer; what you did was not saved. Try again in a moment.');
  }
  if (got.response.ok) return got.data as T;
  const problem = (got.error ?? {}) as { detail?: string; field?: string };
  throw new Problem(got.response.status, problem.detail ?? words(got.response.status), problem.field);
}

/** Sends a file as it is; who calls says what the answer is. */
export const upload = <T>(path: string, file: Blob): Promise<T> =>
  get(
    fetch(path, {
      method: 'POST',
      headers: { 'Content-Type': 'application/octet-stream', 'X-XSRF-TOKEN': decodeURIComponent(token()) },
      body: file
    }).then(async (response) => {
      const body: unknown = await response.json().catch(() => undefined);
      return response.ok ? { data: body as T, response } : { error: body, response };
    })
  );

function words(status: number): string {
  if (status === 401) return 'You are not logged in.';
  if (status === 403) return 'Your role does not allow that.';
  return `The server answered ${status}.`;
}

/** Logs in; false if name or password is wrong. */
export async function logIn(username: string, password: string): Promise<'in' | 'wrong' | 'locked'> {
  await fetch('/api/setup'); // brings the token that every change must carry
  const answer = await fetch('/api/login', {
    method: 'POST',
    headers: { 'X-XSRF-TOKEN': decodeURIComponent(token()) },
    body: new URLSearchParams({ username, password })
  });
  if (answer.status === 429) return 'locked';
  return answer.ok ? 'in' : 'wrong';
}

export async function logOut(): Promise<void> {
  await fetch('/api/logout', { method: 'POST', headers: { 'X-XSRF-TOKEN': decodeURIComponent(token()) } });
  location.reload();
}
