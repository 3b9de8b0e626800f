export * from './api.ts';
export * from './template.ts';
