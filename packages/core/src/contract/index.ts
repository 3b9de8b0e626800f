export * from './template.ts';
export * from './api.ts';
