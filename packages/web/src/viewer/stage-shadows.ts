import {
  BufferGeometry,
  Mesh,
  MeshBasicMaterial,
  Scene,
  ShadowMaterial,
  SpotLight,
  Vector3,
  WebGLRenderTarget,
  type PerspectiveCamera,
  type WebGLRenderer,
} from 'three';
import { EMITTERS, meterLight, surfaceTraits, type Tableau, type TableauLight } from '@tender-orbit/core/scene';

/** As many lights throw shadows; the others are too weak to be missed. */
const SHADOWS = 2;
/** Texels a side for a hard shadow; a soft one is drawn coarser, so that its edge is as many texels wide as can be blurred. */
const FINEST = 1024;
const COARSEST = 64;
const EDGE = 8;
/** A panel is seldom hidden whole by a product. */
const HIDDEN = 0.6;
/** How high above the floor what throws a shadow is, about, metres: with the light's size it tells how soft the edge is. */
const CASTER = 0.06;

/**
 * Soft shadows on the floor. A rasteriser's area lights throw none: in the place of each of the strongest stands a spot
 * without light, whose shadow is as dark as that light's share of all that falls there. The spots stand in a scene of their
 * own with what their shadows fall on: in the other one every pixel of every finish would be lit by them in vain.
 */
export class StageShadows {
  private readonly spots: SpotLight[];
  /** Drawn over the picture of the set. */
  readonly scene = new Scene();
  private readonly nowhere = new WebGLRenderTarget(1, 1);
  private readonly plain = new MeshBasicMaterial();
  readonly catcher = new Mesh(
    new BufferGeometry(),
    new ShadowMaterial({ opacity: 1, polygonOffset: true, polygonOffsetFactor: -1, polygonOffsetUnits: -2 }),
  );

  constructor() {
    this.catcher.receiveShadow = true;
    this.spots = Array.from({ length: SHADOWS }, () => {
      const spot = new SpotLight(0xffffff, 0);
      spot.castShadow = true;
      spot.penumbra = 1;
      spot.shadow.bias = -0.0005;
      return spot;
    });
    this.scene.add(this.catcher);
    this.bringBack();
  }

  /** Draws the shadows of what stands on `set` anew: the only way to have them drawn is with a picture. */
  update(renderer: WebGLRenderer, set: Scene, camera: PerspectiveCamera): void {
    const { overrideMaterial } = set;
    for (const spot of this.spots) set.add(spot, spot.target);
    set.overrideMaterial = this.plain;
    renderer.shadowMap.needsUpdate = true;
    renderer.setRenderTarget(this.nowhere);
    renderer.render(set, camera);
    // Where no spot is lit nothing was drawn, and it is not for the pictures that follow.
    renderer.shadowMap.needsUpdate = false;
    renderer.setRenderTarget(null);
    set.overrideMaterial = overrideMaterial;
    this.bringBack();
  }

  private bringBack(): void {
    for (const spot of this.spots) this.scene.add(spot, spot.target);
  }

  /** @param centre of what stands on the set, @param radius round it, metres. */
  show({ lights, environment, surfaces }: Tableau, centre: Vector3, radius: number): void {
    this.catcher.visible = surfaces.some((s) => surfaceTraits(s.shape).backdrop);
    const at: [number, number, number] = [centre.x, 0.02, centre.z];
    const lit = lights
      .map((light) => ({ light, lux: meterLight(light, at) }))
      .filter(({ lux }) => lux > 0)
      .sort((a, b) => b.lux - a.lux);
    const all = lit.reduce((sum, { lux }) => sum + lux, 0) + Math.PI * environment.intensity;
    this.spots.forEach((spot, i) => {
      const found = lit[i];
      spot.visible = found !== undefined;
      if (found) place(spot, found.light, found.lux / all, centre, radius);
    });
  }

  dispose(): void {
    for (const spot of this.spots) spot.dispose();
    this.nowhere.dispose();
    this.plain.dispose();
    this.catcher.geometry.dispose();
    this.catcher.material.dispose();
  }
}

function place(spot: SpotLight, light: TableauLight, share: number, centre: Vector3, radius: number): void {
  const from = new Vector3(light.matrix[12], light.matrix[13], light.matrix[14]);
  if (EMITTERS[light.kind].distant)
    from.copy(centre).add(new Vector3(...light.matrix.slice(8, 11)).multiplyScalar(Math.max(4, radius * 8)));
  const distance = Math.max(0.05, from.distanceTo(centre));
  spot.position.copy(from);
  spot.target.position.copy(centre);
  spot.angle = Math.min(1.2, Math.atan2(radius, distance) + 0.05);
  spot.shadow.camera.near = Math.max(distance / 50, distance - radius * 2);
  spot.shadow.camera.far = distance + radius * 3;
  spot.shadow.intensity = share * HIDDEN;
  const penumbra = (Math.max(light.width, light.height) * CASTER) / distance;
  const wide = 2 * distance * Math.tan(spot.angle);
  const wanted = 2 ** Math.round(Math.log2((EDGE * wide) / Math.max(1e-4, penumbra)));
  const texels = Math.min(FINEST, Math.max(COARSEST, wanted));
  if (spot.shadow.mapSize.x !== texels) {
    spot.shadow.mapSize.set(texels, texels);
    spot.shadow.map?.dispose();
    spot.shadow.map = null;
  }
  spot.shadow.radius = Math.min(2 * EDGE, Math.max(1, (penumbra * texels) / wide));
}
