import { join } from 'node:path';
import { fileURLToPath } from 'node:url';

/** The project's own folder, from the sources and from what is built alike: both are as deep in it. */
export const projectFolder = fileURLToPath(new URL('../..', import.meta.url));

/** Where the built server is: its programs and the thread that reads files, beside what they share. */
export const builtFolder = join(projectFolder, 'server', 'dist');
