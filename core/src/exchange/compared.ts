/** Designs compared for scripts and checks: the differences in text, and the results of each. */
import { differences } from '../design/variants';
import type { Design } from '../design/schema';
import { report, type Report } from './report';

export interface Compared {
  /** What is compared, by name. */
  readonly names: readonly string[];
  readonly written: readonly { readonly label: string; readonly texts: readonly (string | null)[] }[];
  /** Figures that are not the same in all, by step and name; null where one has no such figure. */
  readonly figures: readonly {
    readonly step: string;
    readonly name: string;
    readonly label: string;
    readonly unit: string;
    readonly quantity: Report['figures'][number]['quantity'];
    readonly values: readonly (number | null)[];
  }[];
  /** Faults and notes of each. */
  readonly findings: readonly (readonly string[])[];
}

/** Compares designs with the first of them; values are in base units, as in `report`. */
export async function compared(
  designs: readonly { readonly name: string; readonly design: Design }[],
): Promise<Compared> {
  const told: Report[] = [];
  for (const { design } of designs) told.push(await report(design));
  const all = new Map(told.flatMap(({ figures }) => figures.map((one) => [`${one.step} ${one.name}`, one])));
  const valuesOf = (key: string) =>
    told.map(({ figures }) => figures.find((one) => `${one.step} ${one.name}` === key)?.value ?? null);
  return {
    names: designs.map(({ name }) => name),
    written: differences(designs.map(({ design }) => design)).map(({ label, texts }) => ({
      label,
      texts: texts.map((text) => text ?? null),
    })),
    figures: [...all].flatMap(([key, { step, name, label, unit, quantity }]) => {
      const values = valuesOf(key);
      return new Set(values).size > 1 ? [{ step, name, label, unit, quantity, values }] : [];
    }),
    findings: told.map(({ findings, complaints }) => [
      ...complaints.map(({ says }) => says),
      ...findings.filter(({ level }) => level !== 'good').map(({ says }) => says),
    ]),
  };
}
