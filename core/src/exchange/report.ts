/** Everything a design says of itself, for scripts and checks. */
import { type Cache, createCache, evaluate } from '../design/evaluate';
import { stepName } from '../design/edit';
import { toleranceTrouble } from '../design/tolerance';
import type { Design } from '../design/schema';
import { sayWords } from '../measure/format';
import { QUANTITIES, coherentUnit } from '../measure/quantity';
import { checkDesign } from '../view/check-design';
import type { Quantity } from '../measure/quantity';

export interface Report {
  readonly design: string;
  readonly givens: { name: string; value: number; unit: string }[];
  readonly figures: {
    step: string;
    name: string;
    label: string;
    value: number;
    /** Set where it is an estimate: by how much it may be off. */
    within?: number;
    unit: string;
    quantity: Quantity;
  }[];
  readonly findings: {
    step: string;
    name: string;
    level: string;
    says: string;
    detail?: string;
    value: number;
    limit: number;
    margin: number;
    unit: string;
    place?: readonly number[];
  }[];
  readonly limits: { step: string; field: string; side: string; value: number; unit: string; says: string }[];
  readonly complaints: { step: string | null; field: string; says: string }[];
  /** Names of the steps by id, in the order of the sheet. */
  readonly steps: Record<string, string>;
}

/**
 * Evaluates the whole design, but for what is in the cache already. Values are in base units at full precision; see
 * docs/command-line.md.
 */
export async function report(design: Design, cache: Cache = createCache()): Promise<Report> {
  const evaluation = await evaluate(design, cache);
  const unitOf = (quantity: Quantity) => QUANTITIES[quantity].unit;
  const out: Report = {
    design: design.name,
    givens: [],
    figures: [],
    findings: [],
    limits: [],
    complaints: [],
    steps: Object.fromEntries(design.steps.map((step) => [step.id, stepName(step)])),
  };
  for (const { name, measured, quantity, complaint } of evaluation.givens) {
    if (complaint)
      out.complaints.push({ step: null, field: name, says: sayWords(complaint.says, design.unit) });
    else if (measured && quantity)
      out.givens.push({ name, value: measured.value / QUANTITIES[quantity].scale, unit: unitOf(quantity) });
    else if (measured)
      out.givens.push({ name, value: measured.value, unit: coherentUnit(measured.dimension) });
  }
  const tolerance = toleranceTrouble(design);
  if (tolerance)
    out.complaints.push({ step: null, field: 'tolerance', says: sayWords(tolerance, design.unit) });
  const checked = await checkDesign(design, evaluation, cache, async () => {});
  for (const result of evaluation.steps) {
    const step = result.id;
    for (const { name, label, value, quantity, within } of result.results)
      out.figures.push({
        step,
        name,
        label,
        value,
        ...(within !== undefined && { within }),
        unit: unitOf(quantity),
        quantity,
      });
    for (const { field, says } of result.complaints)
      out.complaints.push({ step, field, says: sayWords(says, design.unit) });
    const { findings, limits } = checked[step] ?? { findings: [], limits: [] };
    for (const { name, level, says, detail, value, limit, margin, quantity, place } of findings)
      out.findings.push({
        step,
        name,
        level,
        says: sayWords(says, design.unit),
        ...(detail && { detail: sayWords(detail, design.unit) }),
        value,
        limit,
        margin,
        unit: unitOf(quantity),
        ...(place && { place }),
      });
    for (const { step: at, field, side, value, quantity, says, beyond } of limits)
      out.limits.push({
        step: at,
        field,
        side,
        value,
        unit: unitOf(quantity),
        says: `${sayWords(says, design.unit)} ${beyond}`,
      });
  }
  return out;
}
