import { fileURLToPath } from 'node:url';

/** The project's own folder, from the sources and from what is built alike: both are as deep in it. */
export const projectFolder = fileURLToPath(new URL('../..', import.meta.url));
