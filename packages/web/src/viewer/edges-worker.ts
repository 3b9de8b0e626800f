import { listPictureEdges, type PictureChunk } from '@tally/core';

/** Finds the edges of chunks, one after the other, beside the page. */
self.onmessage = ({ data }: MessageEvent<{ readonly id: number; readonly chunk: PictureChunk }>) => {
  const edges = listPictureEdges(data.chunk);
  self.postMessage({ id: data.id, edges }, { transfer: [edges.positions.buffer, edges.rows.buffer] });
};
