import { serve } from './main.ts';

await serve();
