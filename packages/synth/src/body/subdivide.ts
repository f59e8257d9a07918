/** A cage of faces with any number of corners; what each vertex carries (place, weights) is mixed along. */
export interface Cage {
  /** vertices × values: the place first, then whatever is mixed with it. */
  vertices: number[][];
  faces: { corners: number[]; material: number; owner: number }[];
}

/** One round of subdivision (E. Catmull and J. Clark, "Recursively generated B-spline surfaces", 1978). */
export function subdivided({ vertices, faces }: Cage): Cage {
  const width = vertices[0].length;
  const mean = (list: readonly number[][]): number[] =>
    Array.from({ length: width }, (_, k) => list.reduce((sum, vertex) => sum + vertex[k], 0) / list.length);
  const centres = faces.map(({ corners }) => mean(corners.map((corner) => vertices[corner])));
  const edges = new Map<string, { ends: [number, number]; faces: number[] }>();
  const facesAt: number[][] = vertices.map(() => []);
  const key = (a: number, b: number): string => (a < b ? `${a} ${b}` : `${b} ${a}`);
  faces.forEach(({ corners }, f) =>
    corners.forEach((corner, i) => {
      const next = corners[(i + 1) % corners.length];
      facesAt[corner].push(f);
      const edge = edges.get(key(corner, next));
      if (edge) edge.faces.push(f);
      else edges.set(key(corner, next), { ends: [corner, next], faces: [f] });
    }),
  );
  const edgesAt: number[][][] = vertices.map(() => []);
  for (const { ends } of edges.values())
    for (const end of ends) edgesAt[end].push(mean(ends.map((other) => vertices[other])));
  const out: number[][] = vertices.map((vertex, v) => {
    const n = facesAt[v].length;
    const [f, e] = [mean(facesAt[v].map((face) => centres[face])), mean(edgesAt[v])];
    return vertex.map((value, k) => (f[k] + 2 * e[k] + (n - 3) * value) / n);
  });
  const numbers = new Map<string, number>();
  for (const [name, edge] of edges)
    numbers.set(
      name,
      out.push(mean([...edge.ends.map((end) => vertices[end]), ...edge.faces.map((f) => centres[f])])) - 1,
    );
  const quads = faces.flatMap(({ corners, material, owner }, f) => {
    const centre = out.push(centres[f]) - 1;
    return corners.map((corner, i) => {
      const before = corners[(i + corners.length - 1) % corners.length];
      const next = corners[(i + 1) % corners.length];
      const [a, b] = [numbers.get(key(corner, next)), numbers.get(key(before, corner))] as [number, number];
      return { corners: [corner, a, centre, b], material, owner };
    });
  });
  return { vertices: out, faces: quads };
}

/** Turns faces over until neighbours agree on which side is out; a cage must hang together. */
export function oriented({ vertices, faces }: Cage): Cage {
  const at = new Map<string, number[]>();
  const pairs = (corners: readonly number[]): [number, number][] =>
    corners.map((corner, i) => [corner, corners[(i + 1) % corners.length]]);
  faces.forEach(({ corners }, f) => {
    for (const [a, b] of pairs(corners)) {
      const name = a < b ? `${a} ${b}` : `${b} ${a}`;
      at.set(name, [...(at.get(name) ?? []), f]);
    }
  });
  const done = new Map<number, number[]>([[0, faces[0].corners]]);
  const open = [0];
  while (open.length > 0) {
    const own = done.get(open.pop() as number) as number[];
    for (const [a, b] of pairs(own))
      for (const other of at.get(a < b ? `${a} ${b}` : `${b} ${a}`) ?? []) {
        if (done.has(other)) continue;
        const { corners } = faces[other];
        const same = pairs(corners).some(([c, d]) => c === a && d === b);
        done.set(other, same ? [...corners].reverse() : corners);
        open.push(other);
      }
  }
  return { vertices, faces: faces.map((face, f) => ({ ...face, corners: done.get(f) ?? face.corners })) };
}
