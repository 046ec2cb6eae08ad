import { z } from 'zod';
import { Id, Name, Text } from './common.ts';

/** What a person may do: owners everything, makers record work, tasters taste, viewers read. */
export const Role = z.enum(['owner', 'maker', 'taster', 'viewer']);
/** See {@link Role}. */
export type Role = z.infer<typeof Role>;

/** A person as everyone signed in may see them. */
export const Person = z.object({
  id: Id,
  name: Name,
  initials: z.string().trim().min(1).max(4),
  role: Role,
  active: z.boolean(),
  demo: z.boolean(),
  /** Whether they want to be named on the public pages of bars they made. */
  isNamed: z.boolean(),
  version: z.int(),
});
/** See {@link Person}. */
export type Person = z.infer<typeof Person>;

/** Shortest password that is accepted. */
export const SHORTEST_PASSWORD = 8;

/** A person to add or change; the password is left out to keep it. */
export const PersonPut = Person.pick({ name: true, initials: true, role: true }).extend({
  active: z.boolean().default(true),
  password: z.string().min(SHORTEST_PASSWORD).max(200).optional(),
});
/** See {@link PersonPut}. */
export type PersonPut = z.input<typeof PersonPut>;

/** Signing in: a name with its password, or a demo account by id from this machine. */
export const SignIn = z.union([
  z.object({ name: Text(120).min(1), password: z.string().min(1).max(200) }),
  z.object({ demoPersonId: Id }),
]);
/** See {@link SignIn}. */
export type SignIn = z.infer<typeof SignIn>;

/** A new password for oneself. */
export const PasswordChange = z.object({
  current: z.string().min(1).max(200),
  next: z.string().min(SHORTEST_PASSWORD).max(200),
});
/** See {@link PasswordChange}. */
export type PasswordChange = z.infer<typeof PasswordChange>;
