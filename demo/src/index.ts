export { fillSaltmarsh, type DemoOptions } from './saltmarsh.ts';
