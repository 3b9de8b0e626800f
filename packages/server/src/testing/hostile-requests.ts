import fc from 'fast-check';

/** A request as no page of ours would send it. */
export interface HostileRequest {
  readonly method: 'GET' | 'POST';
  readonly path: string;
  readonly headers: Readonly<Record<string, string>>;
  readonly body: string | undefined;
}

/** A route with a body that it takes, to be spoilt. Parts of the path that begin with a colon are spoilt too. */
interface Route {
  readonly method: 'GET' | 'POST';
  readonly path: string;
  readonly body?: unknown;
}

const HASH = 'a'.repeat(64);
const PROFILE = { sheet: 'CSV', headerRow: 0, columns: { code: 0, rate: 1 }, headings: {} };
const WANTED = {
  profile: PROFILE,
  source: 'yard',
  changed: { all: true, but: [] },
  fresh: { all: false, but: ['X'] },
  date: '2026-05-01',
  bookHash: '0',
};
const ITEM = { code: 'H-1', description: 'x', kind: 'material', unit: 'm', rate: '1.00' };
const DIFF = { added: [{ kind: 'item', id: 'H-1', body: ITEM }], updated: [], removed: [] };
const RULE = {
  id: 'h',
  name: 'H',
  scope: { all: [{ field: 'class', op: 'is', value: 'IfcWall' }] },
  section: 's',
  item: 'H-1',
  driver: 'NetSideArea',
};

/** Every route of the server, with `:p` for a project that is there. */
const ROUTES: readonly Route[] = [
  { method: 'GET', path: '/health' },
  { method: 'GET', path: '/projects' },
  { method: 'POST', path: '/projects', body: { name: 'H', currency: 'EUR', withTemplate: false } },
  { method: 'GET', path: '/projects/:p' },
  { method: 'GET', path: '/projects/:p/changes?limit=:n' },
  { method: 'POST', path: '/projects/:p/changes', body: { base: 1, cause: 'x', diff: DIFF } },
  {
    method: 'POST',
    path: '/projects/:p/changes',
    body: { base: 1, cause: 'x', diff: { ...DIFF, added: [{ kind: 'rule', id: 'h', body: RULE }] } },
  },
  { method: 'POST', path: '/projects/:p/preview', body: { diff: DIFF } },
  { method: 'GET', path: '/projects/:p/plan?view={"by":["storey"],"rows":"cell"}' },
  { method: 'GET', path: '/projects/:p/plan/behind?view={"by":["storey"]}&id=/x' },
  { method: 'GET', path: '/projects/:p/bands' },
  { method: 'GET', path: '/projects/:p/targets' },
  { method: 'GET', path: '/projects/:p/checked' },
  {
    method: 'POST',
    path: '/projects/:p/plan/sign',
    body: { things: [{ path: [], section: 's', item: 'H-1' }, { element: 1 }] },
  },
  { method: 'GET', path: '/projects/:p/cutting' },
  { method: 'GET', path: '/projects/:p/cutting/:x' },
  { method: 'POST', path: '/projects/:p/undo', body: {} },
  { method: 'POST', path: '/projects/:p/redo', body: {} },
  { method: 'POST', path: '/projects/:p/template', body: { template: { format: 'x' } } },
  { method: 'GET', path: '/projects/:p/template.json' },
  { method: 'POST', path: '/projects/:p/rename', body: { name: 'Hostile' } },
  { method: 'POST', path: '/projects/:x/duplicate', body: { name: 'Copy' } },
  { method: 'POST', path: '/projects/:x/put-away', body: {} },
  { method: 'POST', path: '/projects/:x/bring-back', body: {} },
  { method: 'GET', path: '/projects/:p/items/:x/rates' },
  { method: 'GET', path: '/projects/:p/plan?by=:x' },
  { method: 'GET', path: '/projects/:p/plan/elements?by=section&id=:x' },
  { method: 'GET', path: '/projects/:p/purchases' },
  { method: 'GET', path: '/projects/:p/plan.csv?by=:x' },
  { method: 'GET', path: '/projects/:p/plan.xlsx' },
  { method: 'POST', path: '/projects/:p/takeoff.xlsx', body: { name: 'T', columns: ['a'], rows: [[1]], levels: [0], heads: [false], sums: [] } }, // biome-ignore format: one route
  { method: 'GET', path: '/projects/:p/elements/states' },
  { method: 'GET', path: '/projects/:p/elements/:n/cost' },
  { method: 'GET', path: '/projects/:p/parts' },
  { method: 'GET', path: '/projects/:p/changes/:n/elements' },
  { method: 'POST', path: '/projects/:p/uploads', body: {} },
  { method: 'GET', path: '/projects/:p/drop-folder' },
  { method: 'POST', path: '/projects/:p/jobs/:x/stop', body: {} },
  { method: 'POST', path: '/projects/:p/jobs/:x/start', body: {} },
  { method: 'POST', path: '/projects/:p/revisions/:x/:x', body: {} },
  { method: 'GET', path: '/projects/:p/revisions/:x/elements' },
  { method: 'GET', path: '/projects/:p/revisions/:x/picture/:n' },
  { method: 'POST', path: '/projects/:p/price-sheets', body: {} },
  { method: 'POST', path: '/projects/:p/classifications', body: {} },
  { method: 'GET', path: '/projects/:p/price-folder' },
  { method: 'POST', path: '/projects/:p/price-folder', body: { fileName: 'x.csv' } },
  { method: 'POST', path: `/projects/:p/price-sheets/${HASH}/compare`, body: { profile: PROFILE, source: 'yard' } },
  { method: 'POST', path: '/projects/:p/price-sheets/:x/effects', body: WANTED },
  { method: 'POST', path: '/projects/:p/price-sheets/:x/preview', body: WANTED },
  { method: 'POST', path: '/projects/:p/price-sheets/:x/take-over', body: WANTED },
  { method: 'GET', path: '/projects/:p/book.xlsx' },
  { method: 'GET', path: '/projects/:p/book.csv' },
  { method: 'POST', path: '/projects/:p/book/publish', body: { note: 'x' } },
  { method: 'GET', path: '/projects/:p/book/:x/effects?version=:n' },
  { method: 'GET', path: '/projects/:p/desk' },
  { method: 'POST', path: '/projects/:p/desk', body: { bays: 6 } },
  { method: 'GET', path: '/books' },
  { method: 'GET', path: '/books/:x/versions' },
  { method: 'GET', path: '/:x' },
];

const deep = (levels: number): unknown => {
  let value: unknown = 1;
  for (let i = 0; i < levels; i++) value = { all: [value] };
  return value;
};

/** Values that have no business where they are put. */
const strange = fc.oneof(
  fc.constantFrom<unknown>(
    null, true, '', ' ', '\u0000', 'a\u0000b', '__proto__', 'constructor', 'toString', '\ud800', '𝔘', '../../etc/passwd', '%', "'; drop table projects; --",
    -1, 0, 1.5, 1e300, -1e300, 2 ** 31, 2 ** 53, 'NaN', [], {}, [[[]]], { __proto__: null }, 'x'.repeat(5000),
  ), // biome-ignore format: a list of values
  fc.constantFrom(300, 2000).map(deep),
  fc.jsonValue({ maxDepth: 4 }),
);

/** A part of an address that no link of ours has. */
const strangePart = fc.constantFrom(
  'x', '%00', '%E0%A4%A', '%', '..%2f..%2fetc%2fpasswd', '__proto__', 'constructor', '-1', '1e300', '99999999999999999999', '2147483648', 'NaN', '1.5', '%F0%9F%98%80',
  'x'.repeat(3000), "';--", 'a%0d%0ab', '[]', '%2e%2e',
); // biome-ignore format: a list of parts

/** A value with one thing in it spoilt: another value, a key too few, a key too many. */
const spoil = (value: unknown): fc.Arbitrary<unknown> => {
  if (value === null || typeof value !== 'object') return strange;
  const keys = Object.keys(value);
  const into = keys.map((key) =>
    spoil((value as Record<string, unknown>)[key]).map((v) =>
      Array.isArray(value) ? value.map((x, i) => (String(i) === key ? v : x)) : { ...value, [key]: v },
    ),
  );
  const without = keys.map((key) => fc.constant(Object.fromEntries(Object.entries(value).filter(([k]) => k !== key))));
  const more = fc
    .tuple(fc.constantFrom('extra', 'constructor', 'kind', 'id'), strange)
    .map(([k, v]) => (Array.isArray(value) ? [...value, v] : { ...value, [k]: v }));
  return fc.oneof(strange, more, ...into, ...without);
};

const strangeHeaders = fc.oneof(
  { weight: 8, arbitrary: fc.constant({}) },
  fc.constantFrom<Record<string, string>>(
    { 'content-type': 'text/plain' },
    { 'content-type': 'application/json; charset=klingon' },
    { 'content-encoding': 'zstd-x' },
    { 'content-encoding': 'gzip' },
    { 'content-type': 'multipart/form-data; boundary=x' },
    { 'content-type': 'multipart/form-data' },
    { 'x-author': '%E0%A4%A' },
    { 'x-author': '%00' },
    { 'last-event-id': '1e300' },
    { range: 'bytes=5-1' },
  ),
);

/** Requests to every route with something wrong about them. @param projectId of a project that is there */
export const hostileRequests = (projectId: string): fc.Arbitrary<HostileRequest> =>
  fc.constantFrom(...ROUTES).chain((route) => {
    const names = route.path.split(/[/?=&]/).filter((p) => p.startsWith(':'));
    const parts = fc.tuple(
      ...names.map((name) =>
        name === ':p'
          ? fc.oneof({ weight: 6, arbitrary: fc.constant(projectId) }, strangePart)
          : fc.oneof(strangePart, fc.constantFrom('1', '0', 'section', 'storey,kind')),
      ),
    );
    const body =
      route.body === undefined
        ? fc.constant(undefined)
        : fc.oneof(
            { weight: 8, arbitrary: spoil(route.body).map((v) => JSON.stringify(v) ?? '') },
            fc.constantFrom('', '{', '[1,', 'null', '"\\ud800"', '--x\r\nContent-Disposition: form-data; name="file"; filename="a"\r\n\r\n1'), // biome-ignore format: a list
          );
    return fc.tuple(parts, body, strangeHeaders).map(([values, text, headers]): HostileRequest => {
      const left = [...values];
      return {
        method: route.method,
        path: route.path.replace(/:[pxn](?=[/?=&]|$)/g, () => String(left.shift())),
        headers: { ...(text === undefined ? {} : { 'content-type': 'application/json' }), ...headers },
        body: text,
      };
    });
  });

/** Answers that are right for a request that cannot be done: told in words, with a code, and not our own fault. */
export async function judgeAnswer(base: string, request: HostileRequest): Promise<string | null> {
  const { method, path, headers, body } = request;
  let res: Response;
  try {
    res = await fetch(base + path, { method, headers, body, signal: AbortSignal.timeout(60_000) });
  } catch (error) {
    const cause = (error as { cause?: Error }).cause ?? (error as Error);
    // Our own client refuses some headers before they are sent.
    if (/invalid (?:header|http token)/i.test(cause.message)) return null;
    return `no answer: ${cause.message}`;
  }
  const text = await res.text();
  if (res.status < 400) return null;
  if (res.status >= 500) return `${res.status}: ${text.slice(0, 200)}`;
  try {
    const { code, detail } = JSON.parse(text) as { code?: string; detail?: string };
    return code && detail ? null : `${res.status} without code or words: ${text.slice(0, 200)}`;
  } catch {
    return `${res.status} that is no problem+json: ${text.slice(0, 200)}`;
  }
}
