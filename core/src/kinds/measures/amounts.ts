/** Volume, surface and mass of a body, kept on the sheet. */
import { z } from 'zod';
import { figure, measureKind } from '../../kind/kind';
import { bodiesResults } from '../../kind/body-results';
import { membersOf, type Measure } from '../../kind/value';
import { centreOfMass } from '../../geometry/mass';
import { extentTogether } from '../../mesh/data/extent';
import type { Body } from '../../solid/body/body';
import { checkMeasure, measuredResults, measuredLater, measureOf } from './measuring';

/** A kind for one of the figures that every body has; of a set that of all together. */
const amount = (of: 'volume' | 'surface' | 'mass', quantity: 'volume' | 'area' | 'mass', words: string[]) =>
  measureKind({
    kind: `measure-${quantity}`,
    title: of[0]!.toUpperCase() + of.slice(1),
    noun: `measured ${of}`,
    words: ['measure', of, ...words, 'tolerance', 'check'],
    inputs: { of: { takes: 'body', beside: true, sets: true } },
    schema: z.object({
      wanted: figure(quantity).optional(),
      tolerance: figure(quantity, { atLeast: 0 }).optional(),
    }),
    defaults: {},
    evaluate: ({ wanted, tolerance }, { of: value }): Measure =>
      measuredLater({
        quantity,
        label: of,
        wanted,
        tolerance,
        async find(poll) {
          const bodies = membersOf(value) as Body[];
          for (const body of bodies) await body.measured(poll);
          await extentTogether(bodies).known(poll);
          const found = bodiesResults(bodies).find(({ name }) => name === of)!;
          return {
            value: found.value,
            ...(found.within !== undefined && { within: found.within }),
            places: [centreOfMass(bodies[0]!.mass)],
          };
        },
      }),
    measure: measureOf,
    results: measuredResults,
    check: checkMeasure,
  });

export const measureVolume = amount('volume', 'volume', ['content']);
export const measureArea = amount('surface', 'area', ['area']);
export const measureMass = amount('mass', 'mass', ['weight']);
