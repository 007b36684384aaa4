/** Small pictures of what is offered. */
import type { Offer } from '@nematos/core/design/offers';

/** Addresses of the pictures by file; made by `npm run pictures`. */
const PICTURES = import.meta.glob<string>('./pictures/*.webp', {
  eager: true,
  query: '?url',
  import: 'default',
});

/** Address of the picture of an offer, where it has one. */
export const pictureOf = ({ picture }: Offer): string | undefined => PICTURES[`./pictures/${picture}.webp`];
