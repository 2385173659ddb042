import { ZubrellError } from '@zubrell/core/errors';
import { expose, transferHandlers } from 'comlink';
import { errorHandler } from './errorHandler.ts';
import { FileReading } from './fileReading.ts';

transferHandlers.set('throw', errorHandler(ZubrellError));
expose(new FileReading());
