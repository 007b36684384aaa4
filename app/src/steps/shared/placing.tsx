/** Where a path is laid: the lines that every kind placed on an axis has. */
import { kindNamed } from '@nematos/core/design/registry';
import { typesAt } from '@nematos/core/kind/kind';
import { Fig, MoreLine, Pick, Source, useEditing, useSet } from '../../fields/editor';

/** Lines for placing; `turned` says what the start angle does, `laid` what is done there. */
export function PlacingLines({
  turned = 'starts at an angle of',
  laid = 'laid',
}: {
  turned?: string | undefined;
  laid?: string;
}) {
  const set = useSet();
  const { place } = kindNamed(useEditing().step.kind)!.inputs;
  const takesBodies = place !== undefined && typesAt(place).includes('body');
  const placing = set.placing ?? 'axis';
  return (
    <>
      {set.startAngle !== undefined && (
        <MoreLine label={turned}>
          <Fig field="startAngle" name="start angle" />
        </MoreLine>
      )}
      <MoreLine label={laid}>
        <Pick
          field="placing"
          name="placing"
          options={[
            ['axis', 'on an axis'],
            ['points', 'between two points'],
            ['path', takesBodies ? 'at a path or body' : 'at another path'],
          ]}
          also={(_draft, { kind, set }, chosen) => {
            // Between two points the height of a helix is given by them.
            if (chosen === 'points' && kind === 'helix' && set.height !== undefined) {
              delete set.height;
              if (set.turns === undefined && set.pitch === undefined) set.turns = '6';
            }
          }}
        />
      </MoreLine>
      {placing !== 'path' && (
        <MoreLine label="from x, y, z">
          <Fig field="originX" name="x of the start" />
          <Fig field="originY" name="y of the start" />
          <Fig field="originZ" name="z of the start" />
        </MoreLine>
      )}
      {placing === 'axis' && (
        <MoreLine label="along x, y, z">
          <Fig field="axisX" name="direction in x" />
          <Fig field="axisY" name="direction in y" />
          <Fig field="axisZ" name="direction in z" />
        </MoreLine>
      )}
      {placing === 'points' && (
        <MoreLine label="to x, y, z">
          <Fig field="toX" name="x of the end" />
          <Fig field="toY" name="y of the end" />
          <Fig field="toZ" name="z of the end" />
        </MoreLine>
      )}
      {placing === 'path' && (
        <MoreLine label="at the">
          <Pick field="anchor" name="place on the path" options={ANCHORS} /> of{' '}
          <Source slot="place" name="path to be laid at" />
        </MoreLine>
      )}
    </>
  );
}

export const ANCHORS = [
  ['start', 'start'],
  ['end', 'end'],
  ['centre', 'centre'],
] as const;
