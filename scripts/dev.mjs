// npm run dev: the server from its sources with the demo workshop, and Vite with hot reload on port 5173.
import { spawn } from 'node:child_process';
import { ensurePackages, root } from './setup.mjs';
import { join } from 'node:path';

ensurePackages();
const children = [
  spawn('npx', ['tsx', 'watch', 'demo/src/start.ts'], { cwd: root, stdio: 'inherit' }),
  spawn('npx', ['vite'], { cwd: join(root, 'web'), stdio: 'inherit' }),
];
const stop = () => children.forEach((c) => c.kill());
process.on('SIGINT', stop);
children.forEach((c) => c.on('exit', stop));
