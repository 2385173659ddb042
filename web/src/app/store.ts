import { configureStore } from '@reduxjs/toolkit';
import { useDispatch, useSelector } from 'react-redux';
import { deskSlice } from '../screens/desk/deskSlice.ts';
import { api } from './api.ts';
import { undoSlice } from './undoSlice.ts';

/** The store: the server's data, and the state of the interface. */
export const store = configureStore({
  reducer: { [api.reducerPath]: api.reducer, desk: deskSlice.reducer, undo: undoSlice.reducer },
  middleware: (standard) => standard().concat(api.middleware),
});

export type RootState = ReturnType<typeof store.getState>;
export const useAppDispatch = useDispatch.withTypes<typeof store.dispatch>();
export const useAppSelector = useSelector.withTypes<RootState>();
