import * as yup from 'yup';

export const KEY_SETS = ['initials', 'left-hand'] as const;
/** The key sets that come with the application. */
export type KeySet = (typeof KEY_SETS)[number];

/** What a person has chosen for themselves; kept with the account. */
export interface Preferences {
  keySet: KeySet;
  /** The person's own keys by action, instead of the set's; empty takes an action's keys away. */
  bindings: Record<string, string>;
  /** Rendering leaves one core of the server free while this person works. */
  spareCore?: boolean;
}

/** So many actions may have keys of a person's own. */
const MOST_BINDINGS = 300;
const ACTION = /^[a-z]+(\.[a-z0-9-]+)+$/;

export const NO_PREFERENCES: Preferences = { keySet: 'initials', bindings: {} };

export const preferencesBody: yup.Schema<Preferences> = yup
  .object({
    keySet: yup
      .mixed<KeySet>()
      .oneOf([...KEY_SETS], `The key set must be one of: ${KEY_SETS.join(', ')}.`)
      .required('Choose a key set.'),
    bindings: yup
      .mixed<Record<string, string>>()
      .required('Own keys are missing.')
      .test('bindings', 'Own keys must name actions and keys, at most 40 letters each.', (value) => {
        if (typeof value !== 'object' || value === null || Array.isArray(value)) return false;
        const entries = Object.entries(value);
        return (
          entries.length <= MOST_BINDINGS &&
          entries.every(([action, keys]) => ACTION.test(action) && typeof keys === 'string' && keys.length <= 40)
        );
      }),
    spareCore: yup.boolean(),
  })
  .strict()
  .noUnknown('There is a preference that is not known here: ${unknown}.');
