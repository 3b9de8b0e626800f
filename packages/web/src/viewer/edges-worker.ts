import { listPictureEdges } from '@tally/core';
import { receiveChunk, type SentChunk } from './edge-finder.ts';

/** Finds the edges of chunks, one after the other, beside the page. */
self.onmessage = ({ data }: MessageEvent<{ readonly id: number; readonly chunk: SentChunk }>) => {
  const edges = listPictureEdges(receiveChunk(data.chunk));
  self.postMessage({ id: data.id, edges }, { transfer: [edges.positions.buffer, edges.rows.buffer] });
};
