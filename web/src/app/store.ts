import { configureStore } from '@reduxjs/toolkit';
import { shallowEqual, useDispatch, useSelector, useStore } from 'react-redux';
import { deskSlice, type DeskState } from '../places/desk/deskSlice';
import { api } from './api';

export function makeStore() {
  return configureStore({
    reducer: { desk: deskSlice.reducer, [api.reducerPath]: api.reducer },
    middleware: (defaults) => defaults().concat(api.middleware),
  });
}

export const store = makeStore();

export type RootState = ReturnType<typeof store.getState>;
export const useAppDispatch = useDispatch.withTypes<typeof store.dispatch>();
export const useAppStore = useStore.withTypes<typeof store>();
export const useAppSelector = useSelector.withTypes<RootState>();

/** Some fields of the desk's state. Whoever asks is drawn anew when one of these changes, and for nothing else. */
export function useDeskState<K extends keyof DeskState>(...fields: K[]): Pick<DeskState, K> {
  return useAppSelector(
    ({ desk }) =>
      Object.fromEntries(fields.map((field) => [field, desk[field]])) as Pick<DeskState, K>,
    shallowEqual,
  );
}
