import { createRoot } from 'react-dom/client';
import { App } from './app.tsx';
import { mainDoor } from './shell/door.tsx';
import { startInstall } from './shell/install.ts';
import { keepPresses } from './shell/press.ts';
import { startRelease } from './shell/release.ts';
import { startTheme } from './shell/theme.ts';
import './theme.css';

startTheme();
startInstall();
keepPresses();
void startRelease();
void mainDoor.outbox.start();
createRoot(document.getElementById('root')!).render(<App />);
