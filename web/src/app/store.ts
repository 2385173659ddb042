import { configureStore } from '@reduxjs/toolkit';
import { useDispatch, useSelector } from 'react-redux';
import { api } from '../api/api.ts';
import { deskSlice } from '../screens/desk/deskSlice.ts';
import { undoSlice } from './undoSlice.ts';
import { wayBackSlice } from './wayBackSlice.ts';

/** Makes a store: the server's data, and the state of the interface. */
export const makeStore = () =>
  configureStore({
    reducer: {
      [api.reducerPath]: api.reducer,
      desk: deskSlice.reducer,
      undo: undoSlice.reducer,
      wayBack: wayBackSlice.reducer,
    },
    middleware: (standard) => standard().concat(api.middleware),
  });

type Store = ReturnType<typeof makeStore>;
export type RootState = ReturnType<Store['getState']>;
export const useAppDispatch = useDispatch.withTypes<Store['dispatch']>();
export const useAppSelector = useSelector.withTypes<RootState>();
