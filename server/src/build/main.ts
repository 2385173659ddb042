import { buildServer } from './buildServer.ts';

await buildServer();
