import type { ChunkElement, PictureChunk, PictureEdges } from '@tally/core';

/** A chunk as it is sent: five figures an element, for many small objects would take long to cross. */
export type SentChunk = Omit<PictureChunk, 'elements'> & { readonly elements: Int32Array };

const FIGURES = 5;

function sendChunk({ elements, ...chunk }: PictureChunk): SentChunk {
  const flat = new Int32Array(elements.length * FIGURES);
  for (const [i, e] of elements.entries())
    flat.set([e.row, e.firstVertex, e.vertexCount, e.firstIndex, e.indexCount], i * FIGURES);
  return { ...chunk, elements: flat };
}

export function receiveChunk({ elements, ...chunk }: SentChunk): PictureChunk {
  const list: ChunkElement[] = [];
  for (let i = 0; i < elements.length; i += FIGURES) {
    const [row, firstVertex, vertexCount, firstIndex, indexCount] = elements.subarray(i, i + FIGURES);
    list.push({ row: row!, firstVertex: firstVertex!, vertexCount: vertexCount!, firstIndex: firstIndex!, indexCount: indexCount! }); // biome-ignore format: one element
  }
  return { ...chunk, elements: list };
}

/** What of a web worker is used. */
export interface EdgeWorker {
  onmessage: ((message: { data: { id: number; edges: PictureEdges } }) => void) | null;
  onerror: ((event: unknown) => void) | null;
  postMessage(message: { readonly id: number; readonly chunk: SentChunk }): void;
  terminate(): void;
}

const startWorker = (): EdgeWorker =>
  new Worker(new URL('./edges-worker.ts', import.meta.url), { type: 'module' }) as unknown as EdgeWorker;

/** Times that the worker is started again after it died; then the building is drawn without edges. */
const MOST_STARTS = 3;

/**
 * Finds the edges of chunks in a worker of its own. Without them a building is still drawn: a chunk whose edges cannot be found, or come
 * after the end, has none.
 */
export class EdgeFinder {
  private worker: EdgeWorker | null = null;
  private starts = 0;
  private last = 0;
  private readonly waiting = new Map<number, (edges: PictureEdges | null) => void>();

  constructor(private readonly start: () => EdgeWorker = startWorker) {}

  find(chunk: PictureChunk): Promise<PictureEdges | null> {
    const worker = this.worker ?? this.open();
    if (!worker) return Promise.resolve(null);
    const id = ++this.last;
    return new Promise((resolve) => {
      this.waiting.set(id, resolve);
      worker.postMessage({ id, chunk: sendChunk(chunk) });
    });
  }

  dispose(): void {
    this.starts = MOST_STARTS;
    this.close();
  }

  private open(): EdgeWorker | null {
    if (this.starts >= MOST_STARTS) return null;
    this.starts++;
    const worker = this.start();
    worker.onmessage = ({ data }) => {
      this.waiting.get(data.id)?.(data.edges);
      this.waiting.delete(data.id);
    };
    worker.onerror = () => this.close();
    this.worker = worker;
    return worker;
  }

  private close(): void {
    this.worker?.terminate();
    this.worker = null;
    for (const resolve of this.waiting.values()) resolve(null);
    this.waiting.clear();
  }
}
