import { configureStore } from '@reduxjs/toolkit';
import { useDispatch, useSelector } from 'react-redux';
import { deskSlice } from '../places/desk/deskSlice';

export const store = configureStore({
  reducer: { desk: deskSlice.reducer },
  // Templates are large values that never hold anything but plain data: looking through them after
  // every keystroke would cost more than building them.
  middleware: (defaults) => defaults({ serializableCheck: false, immutableCheck: false }),
});

type RootState = ReturnType<typeof store.getState>;
export const useAppDispatch = useDispatch.withTypes<typeof store.dispatch>();
export const useAppSelector = useSelector.withTypes<RootState>();
