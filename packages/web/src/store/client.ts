import type { ProblemDto } from '@tally/core';
import { connection } from './connection.ts';

/** An answer of the server that is an error, in words for the user. */
export class ApiProblem extends Error {
  constructor(readonly problem: ProblemDto) {
    super(problem.detail);
  }
}

/** True if nobody answered: what was asked may be asked again. */
export const isUnreachable = (error: unknown): boolean =>
  error instanceof ApiProblem && error.problem.code === 'unreachable';

const AUTHOR_KEY = 'crisp-tally/author';

/** Birds of the river, for people who have not said their name: two of them are told apart, and can take back their own. */
const BIRDS = [
  'Heron',
  'Teal',
  'Osprey',
  'Curlew',
  'Bittern',
  'Dipper',
  'Avocet',
  'Plover',
  'Wigeon',
  'Grebe',
  'Tern',
  'Rail',
];

/** Display name under which changes are made: the person's own, else one made up for this browser. */
export function readAuthorName(): string {
  const own = localStorage.getItem(AUTHOR_KEY);
  if (own) return own;
  const made = `${BIRDS[Math.floor(Math.random() * BIRDS.length)]!} ${10 + Math.floor(Math.random() * 90)}`;
  localStorage.setItem(AUTHOR_KEY, made);
  return made;
}

export function saveAuthorName(name: string): void {
  localStorage.setItem(AUTHOR_KEY, name.trim());
}

async function check(res: Response): Promise<Response> {
  if (res.ok) return res;
  const problem = (await res.json().catch(() => null)) as ProblemDto | null;
  throw new ApiProblem(
    problem ?? {
      type: 'about:blank',
      status: res.status,
      title: 'Error',
      code: 'unreachable',
      detail: `The server answered ${res.status}.`,
      remedy: 'Try again.',
    },
  );
}

async function request(path: string, init: RequestInit = {}): Promise<Response> {
  const headers = { 'x-author': encodeURIComponent(readAuthorName()), ...init.headers };
  let res: Response;
  try {
    res = await fetch(`/api${path}`, { ...init, headers });
  } catch (error) {
    if (init.signal?.aborted) throw error;
    connection.set(false);
    throw new ApiProblem({
      type: 'about:blank',
      status: 0,
      title: 'No answer',
      code: 'unreachable',
      detail: 'The server does not answer.',
      remedy: 'Check that Crisp Tally is running; nothing typed is lost.',
    });
  }
  connection.set(true);
  return check(res);
}

export async function getJson<T>(path: string, signal?: AbortSignal): Promise<T> {
  return (await request(path, signal ? { signal } : {})).json() as Promise<T>;
}

export async function getBytes(path: string): Promise<Uint8Array> {
  return new Uint8Array(await (await request(path)).arrayBuffer());
}

export async function postJson<T>(path: string, body: unknown, signal?: AbortSignal): Promise<T> {
  const headers = { 'content-type': 'application/json' };
  const init = { method: 'POST', headers, body: JSON.stringify(body), ...(signal ? { signal } : {}) };
  return (await request(path, init)).json() as Promise<T>;
}

/** What a request with a body answers as a file. */
export async function postForFile(path: string, body: unknown): Promise<Blob> {
  const init = { method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) };
  return (await request(path, init)).blob();
}

/** Sends a file and says how much of it has gone. */
export function uploadFile<T>(
  path: string,
  file: File,
  fields: Record<string, string> = {},
  onShare?: (share: number) => void,
  signal?: AbortSignal,
): Promise<T> {
  return new Promise((resolve, reject) => {
    const xhr = new XMLHttpRequest();
    const form = new FormData();
    for (const [name, value] of Object.entries(fields)) form.append(name, value);
    form.append('file', file);
    xhr.open('POST', `/api${path}`);
    xhr.setRequestHeader('x-author', encodeURIComponent(readAuthorName()));
    xhr.responseType = 'json';
    xhr.upload.onprogress = (e) => e.lengthComputable && onShare?.(e.loaded / e.total);
    const unreachable: ProblemDto = {
      type: 'about:blank',
      status: 0,
      title: 'No answer',
      code: 'unreachable',
      detail: 'The upload was cut off.',
      remedy: 'Bring the file again.',
    };
    xhr.onload = () =>
      xhr.status < 400
        ? resolve(xhr.response as T)
        : reject(new ApiProblem((xhr.response as ProblemDto | null) ?? unreachable));
    xhr.onerror = () => reject(new ApiProblem(unreachable));
    xhr.onabort = () => reject(new ApiProblem({ ...unreachable, code: 'stopped', detail: 'The upload was stopped.' }));
    signal?.addEventListener('abort', () => xhr.abort());
    xhr.send(form);
  });
}
