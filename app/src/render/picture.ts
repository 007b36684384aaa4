/** Small pictures of designs for the shelf, drawn out of sight by one shared renderer. */
import { PerspectiveCamera, Sphere, Vector3 } from 'three';
import type { Theme } from '../ui/theme';
import type { Drawn } from '../worker/messages';
import type { Colours } from './materials';
import { quality } from './quality';
import { SPACE_ONLY, StageScene, makeRenderer } from './scene';

const WIDTH = 560;
const HEIGHT = 400;
/** Lines are one pixel wide: of nothing else the picture is made this much smaller, and they are the wider in it. */
const LINES = 0.45;
const TO_EYE = new Vector3(0.62, -0.72, 0.36).normalize();

let studio: ReturnType<typeof makeStudio> | undefined;
function makeStudio() {
  const { antialias, shadows } = quality();
  const renderer = makeRenderer(antialias, shadows);
  renderer.setPixelRatio(1);
  renderer.setSize(WIDTH, HEIGHT, false);
  const stageScene = new StageScene(renderer);
  const camera = new PerspectiveCamera(26, WIDTH / HEIGHT);
  camera.up.set(0, 0, 1);
  camera.layers.enable(SPACE_ONLY);
  return { renderer, stageScene, camera };
}

/** PNG on a clear ground; undefined when there is nothing to be seen. */
export async function drawPicture(
  drawn: readonly Drawn[],
  theme: Theme,
  colours: Colours,
): Promise<Blob | undefined> {
  studio ??= makeStudio();
  const { renderer, stageScene, camera } = studio;
  stageScene.dress(theme);
  // What is nothing but lines is drawn as what is chosen: it would hardly be seen.
  const lines = drawn.every(({ type }) => type === 'line') ? drawn.map(({ step }) => step) : [];
  stageScene.show(drawn, lines, colours);
  const size = lines.length ? LINES : 1;
  renderer.setSize(size * WIDTH, size * HEIGHT, false);
  if (stageScene.extent.isEmpty()) return undefined;
  const { center, radius } = stageScene.extent.getBoundingSphere(new Sphere());
  const distance = (radius / Math.sin((13 * Math.PI) / 180)) * 1.02;
  camera.position.copy(center).addScaledVector(TO_EYE, distance);
  camera.near = distance / 100;
  camera.far = distance * 10;
  camera.updateProjectionMatrix();
  camera.lookAt(center);
  stageScene.face(TO_EYE);
  renderer.render(stageScene.scene, camera);
  return new Promise((resolve) =>
    renderer.domElement.toBlob((blob) => resolve(blob ?? undefined), 'image/png'),
  );
}
