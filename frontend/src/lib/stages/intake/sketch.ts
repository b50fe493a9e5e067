/** A line from the middle, by a bearing [°] and two distances. */
export function ray(degrees: number, from: number, to: number) {
  const angle = (degrees * Math.PI) / 180;
  const point = (r: number) => [Math.sin(angle) * r, -Math.cos(angle) * r] as const;
  return { a: point(from), b: point(to) };
}

/** Where the exhaust blows: a quarter of a circle about its bearing [°]. */
export function fan(degrees: number, reach: number) {
  const [a, b] = [degrees - 45, degrees + 45].map((one) => ray(one, 0, reach).b);
  return a && b ? `M0 0 L${a[0]} ${a[1]} A${reach} ${reach} 0 0 1 ${b[0]} ${b[1]}Z` : '';
}
