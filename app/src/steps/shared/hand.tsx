/** Which way a path winds, as words in its sentence. */
import { Pick } from '../../fields/editor';

/** "right-handed": of what climbs. */
export const Hand = () => (
  <>
    <Pick
      field="hand"
      name="hand"
      options={[
        ['right', 'right'],
        ['left', 'left'],
      ]}
    />
    -handed
  </>
);

/** "anticlockwise": of what lies in a plane. */
export const WayRound = () => (
  <Pick
    field="hand"
    name="way round"
    options={[
      ['right', 'anticlockwise'],
      ['left', 'clockwise'],
    ]}
  />
);
