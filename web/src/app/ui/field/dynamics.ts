/** A musician's dynamics beside the velocities at which they stand, 1–127. */
export const DYNAMICS = [
  { name: 'pp', velocity: 16 },
  { name: 'p', velocity: 33 },
  { name: 'mp', velocity: 49 },
  { name: 'mf', velocity: 64 },
  { name: 'f', velocity: 80 },
  { name: 'ff', velocity: 96 },
  { name: 'fff', velocity: 112 },
] as const;

/** The dynamic nearest a velocity. */
export function dynamicOf(velocity: number): string {
  let nearest: (typeof DYNAMICS)[number] = DYNAMICS[0];
  for (const dynamic of DYNAMICS)
    if (Math.abs(dynamic.velocity - velocity) < Math.abs(nearest.velocity - velocity))
      nearest = dynamic;
  return nearest.name;
}
