// Property tests draw the same cases every time.
require('fast-check').configureGlobal({ seed: 20260302 });
