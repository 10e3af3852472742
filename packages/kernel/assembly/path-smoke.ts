import { Path } from './path-state';
import { connectSmoke } from './path-lights';
import { BY_DIFFUSE } from './pixel';
import { sampleRoom } from './room';
import { I_KIND, instance, KIND_LIGHT, RAY_LIGHTING, word } from './scene';
import { IN_PACKET } from './triangles';

/** What smoke takes before the first surface: it guides denoising. */
export function lookThroughSmoke(path: Path, t: f64): void {
  const volumes = path.volumes;
  const pixel = path.pixel;
  volumes.look(path.ox, path.oy, path.oz, path.dx, path.dy, path.dz, t);
  pixel.veil = volumes.veil;
  pixel.veilR = volumes.veilR;
  pixel.veilG = volumes.veilG;
  pixel.veilB = volumes.veilB;
  pixel.veilDepth = volumes.veilDepth;
}

/** The surface behind the smoke that a path has met, as far as it guides denoising. */
export function describeBehind(path: Path, t: f64): void {
  const hit = path.hit;
  const scene = path.scene;
  if (word(instance(scene, hit.instance), I_KIND) == KIND_LIGHT) return;
  const s = path.surface;
  s.at(
    hit.instance,
    hit.triangle,
    hit.corner,
    IN_PACKET,
    hit.u,
    hit.v,
    path.time,
    path.coneWidth + path.coneSpread * t,
  );
  const front = s.gx * path.dx + s.gy * path.dy + s.gz * path.dz < 0;
  path.describeLook(s, s.transmission * (1 - s.metallic) >= 0.5, front, t);
}

/** A collision at distance `t`: light is sampled there and the path goes on by the phase function. */
export function scatterInSmoke(path: Path, t: f64): bool {
  const volumes = path.volumes;
  const sampler = path.sampler;
  path.absorb(t);
  path.ox += path.dx * t;
  path.oy += path.dy * t;
  path.oz += path.dz * t;
  path.clear = false;
  path.tr *= volumes.r;
  path.tg *= volumes.g;
  path.tb *= volumes.b;
  if (path.reach >= 0) return false;
  if (path.scatters == 0) {
    path.pixel.alpha = 1;
    path.lobe = BY_DIFFUSE;
  }
  if (path.bounces >= path.scene.maxBounces) return false;
  path.receive(path.ox, path.oy, path.oz, 0, 0, 0, false, -1);
  path.bent = false;
  path.roomSampled = path.lights.hasRoom && path.bounces == 0;
  const lights = path.lights;
  sampler.next();
  const choice = sampler.u;
  sampler.next();
  if (path.scene.lightCount > 0 && lights.sample(path.from, choice, sampler.u, sampler.v)) connectSmoke(path);
  if (path.roomSampled) {
    sampler.next();
    if (sampleRoom(lights, sampler.u, sampler.v)) connectSmoke(path);
  }
  sampler.next();
  path.pdf = volumes.scatter(path.dx, path.dy, path.dz, sampler.u, sampler.v);
  path.dx = volumes.dx;
  path.dy = volumes.dy;
  path.dz = volumes.dz;
  path.passed = false;
  path.mask = RAY_LIGHTING;
  path.lastThing = -1;
  path.scatters++;
  path.bounces++;
  return true;
}
