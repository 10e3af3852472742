import { Router } from 'express';
import { rateLimit } from 'express-rate-limit';
import * as yup from 'yup';
import { csrf, HttpProblem, type AppContext } from '../http/index.ts';
import { checkPassword, findPerson, type Person } from './people.ts';

const signIn = yup.object({
  email: yup.string().strict().required('Enter your e-mail address.').max(190, 'This e-mail address is too long.'),
  password: yup.string().strict().required('Enter your password.').max(200, 'This password is too long.'),
});

export function accountRoutes(ctx: AppContext): Router {
  const router = Router();
  const limiter = rateLimit({
    windowMs: 60_000,
    limit: 30,
    handler: () => {
      throw new HttpProblem(429, 'session/too-many', 'Too many tries: wait a minute and try again.');
    },
  });

  // With what a client must know of this server: it refuses hopeless uploads itself.
  const answer = (person: Person | null, csrfToken: string): object => ({
    ...{ person, csrfToken },
    uploadLimit: ctx.config.uploadLimit,
  });

  router.get('/session', async (req, res) => {
    const person = req.session.personId ? await findPerson(ctx.db, req.session.personId) : null;
    res.json(answer(person, csrf.generateToken(req)));
  });

  router.post('/session', limiter, csrf.csrfSynchronisedProtection, async (req, res) => {
    const { email, password } = await signIn.validate(req.body ?? {});
    const person = await checkPassword(ctx.db, email, password);
    if (!person) throw new HttpProblem(401, 'session/wrong', 'E-mail address and password do not match.', 'Password');
    // A fresh session id, so that one planted before signing in is worth nothing.
    await new Promise<void>((done, fail) => req.session.regenerate((error) => (error ? fail(error) : done())));
    req.session.personId = person.id;
    res.json(answer(person, csrf.generateToken(req, true)));
  });

  router.delete('/session', csrf.csrfSynchronisedProtection, async (req, res) => {
    await new Promise<void>((done, fail) => req.session.destroy((error) => (error ? fail(error) : done())));
    res.status(204).end();
  });
  return router;
}
