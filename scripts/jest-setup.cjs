// Property tests draw the same cases every time.
require('fast-check').configureGlobal({ seed: 20260302 });
// The browser that component tests make up lacks what every real one has.
if (typeof globalThis.TextEncoder === 'undefined') Object.assign(globalThis, require('node:util'));
