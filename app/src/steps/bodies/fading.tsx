import { Fig, MoreLine } from '../../fields/editor';

/** Over which lengths something grows from nothing, and fades again. */
export function FadingLines() {
  return (
    <>
      <MoreLine label="grows from nothing over">
        <Fig field="runIn" name="run-in" />
      </MoreLine>
      <MoreLine label="runs out over">
        <Fig field="runOut" name="run-out" />
      </MoreLine>
    </>
  );
}
