/** Older documents brought to the present version, one version at a time. */
import { Complaint } from '../measure/words';
import { VERSION } from './schema';

type Loose = Record<string, unknown>;

/** From version n (the key) to n + 1. */
const MIGRATIONS: Readonly<Record<number, (document: Loose) => Loose>> = {
  // Version 0 was the trial format: figures of a step stood under "figures", and there was no tolerance.
  0: ({ steps, ...rest }) => ({
    ...rest,
    version: 1,
    steps: Array.isArray(steps)
      ? steps.map((step: Loose) => {
          const { figures, ...kept } = step;
          return figures === undefined ? step : { ...kept, set: figures };
        })
      : steps,
  }),
};

/** @throws Complaint when the version is newer than this application, or none. */
export function migrate(document: Loose): Loose {
  let current = document;
  const version = document.version;
  if (typeof version !== 'number' || !Number.isInteger(version) || version < 0)
    throw new Complaint('The file does not say which version of the format it is.');
  if (version > VERSION)
    throw new Complaint(
      `The file is of version ${version}; this Nematos reads up to version ${VERSION}. Open it with a newer one.`,
    );
  for (let v = version; v < VERSION; v++) current = MIGRATIONS[v]!(current);
  return current;
}
