import { configureStore } from '@reduxjs/toolkit';
import { useDispatch, useSelector } from 'react-redux';
import { deskSlice } from '../places/desk/deskSlice';
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
export const useAppSelector = useSelector.withTypes<RootState>();
