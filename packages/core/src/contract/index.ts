export * from './template.ts';
