import './data/without-eval.ts';
import { prepareRoom } from './rooms/room-modules.ts';

// The room the address names and the application around it are fetched and read side by side.
prepareRoom(location.pathname);
void import('./application.tsx');
