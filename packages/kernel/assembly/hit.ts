/** The ray at hand and the nearest thing it met. */
@unmanaged
export class Hit {
  /** Distance of the nearest hit, barycentrics of the triangle's second and third vertex. */
  t: f64;
  u: f64;
  v: f64;
  /** What was hit; instance -1: nothing. For a light the triangle is the light's number. */
  instance: i32;
  triangle: i32;
  /** Where the triangle lies in its packet (see triangles.ts): it has just been read, unlike the list of triangles. */
  corner: usize;
  /** Rays cast so far. */
  rays: u32;
  /** Room for (f32 near, i32 node) entries, with 16 bytes free below. */
  stack: usize;
  /** First free place of it when a mesh is visited. */
  free: usize;
  /** When the ray is cast: 0 shutter opens, 1 it closes. */
  time: f64;
  /** Reach in single precision. */
  best: f32;
  through: i32;
  /** The ray in the world. */
  ox: f64;
  oy: f64;
  oz: f64;
  dx: f64;
  dy: f64;
  dz: f64;
  near: f64;
  far: f64;
  /** The instance in whose space the ray is known in double precision, and how it runs there. */
  known: i32;
  localX: f64;
  localY: f64;
  localZ: f64;
  alongX: f64;
  alongY: f64;
  alongZ: f64;
  /** The ray spread over lanes, see lanes.ts: in the world, and in the space of the mesh. */
  world: usize;
  local: usize;
  /** 12 doubles: world to thing, for the moving thing that is looked at. */
  inverse: usize;
  /** Two packets of a mesh that deforms: the one that is looked at, as it is at `time`, and the one that was hit. */
  blend: usize;
  stash: usize;
}
