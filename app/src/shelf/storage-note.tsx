/** How safely the shelf is kept, and what of it could not be read. */
import { useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { fileName } from '@nematos/core/exchange/file-name';
import { useAside, useDropAside, useStorage } from '../data/queries';
import { askToKeep } from '../data/storage';
import { save } from '../ui/save';

const LINK = 'rounded text-thread hover:underline';

/** Says so where the browser may forget what is on the shelf. */
export function StorageNote() {
  const storage = useStorage().data;
  const client = useQueryClient();
  const [refused, setRefused] = useState(false);
  if (storage === 'tab')
    return (
      <p role="alert" className="mt-2 text-madder">
        Not saved: this browser's storage is not available. Designs are gone when this tab is closed. Export
        what you want to keep, and reload the page to try again.
      </p>
    );
  if (storage !== 'best') return null;
  return (
    <p className="mt-1 text-quiet">
      The browser may forget them when it runs short of room.{' '}
      {refused ? (
        'The browser does not promise to keep them. Export all designs now and then.'
      ) : (
        <button
          type="button"
          className={LINK}
          onClick={() => {
            void askToKeep().then((kept) => {
              setRefused(!kept);
              void client.invalidateQueries({ queryKey: ['storage'] });
            });
          }}
        >
          Ask it to keep them
        </button>
      )}
    </p>
  );
}

/** Designs that could not be read: each can be exported as it is stored, or deleted. */
export function Recovery() {
  const aside = useAside().data ?? [];
  const drop = useDropAside();
  if (!aside.length) return null;
  return (
    <section className="mt-4" aria-label="Could not be read">
      <h2 className="font-semibold text-madder">Could not be read and was moved to recovery</h2>
      <ul className="mt-1">
        {aside.map(({ id, name, says, raw }) => (
          <li key={id} className="py-0.5">
            {name || 'Untitled'}: <span className="text-quiet">{says}</span>{' '}
            <button
              type="button"
              className={LINK}
              onClick={() =>
                save(new Blob([JSON.stringify(raw, null, 2)]), fileName(`${name} damaged`, 'json'))
              }
            >
              Export what is there
            </button>{' '}
            <button type="button" className={LINK} onClick={() => drop.mutate(id)}>
              Take away
            </button>
          </li>
        ))}
      </ul>
    </section>
  );
}
