import { createRoot } from 'react-dom/client';
import { App } from './app.tsx';
import { outbox } from './shell/outbox.ts';
import { startTheme } from './shell/theme.ts';
import './theme.css';

startTheme();
void outbox.start();
createRoot(document.getElementById('root')!).render(<App />);
