import { templateDirectory } from './template.ts';

await templateDirectory();
