import * as yup from 'yup';
import type { Preferences } from './preferences.ts';

export interface Person {
  id: string;
  email: string;
  name: string;
}

/** Who is signed in, with what a client must know of this server: it refuses hopeless uploads itself. */
export interface SessionAnswer {
  person: Person | null;
  preferences: Preferences;
  csrfToken: string;
  /** Bytes. */
  uploadLimit: number;
}

export const signInBody = yup.object({
  email: yup.string().strict().required('Enter your e-mail address.').max(190, 'This e-mail address is too long.'),
  password: yup.string().strict().required('Enter your password.').max(200, 'This password is too long.'),
});
export type SignIn = yup.InferType<typeof signInBody>;
