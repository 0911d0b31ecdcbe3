/** How far apart two channels may be, of 255, and still look alike. */
const tolerance = 40;

interface Pixels {
  data: Uint8ClampedArray;
  width: number;
  height: number;
}

/**
 * Marks with 1 the pixels of two pictures of one size that differ. One does that is no shade between those
 * around its place in the other picture, in either direction: so soft edges, which are laid a fraction of
 * a pixel otherwise, do not count, and what is there in one alone does.
 */
export function differing(a: Pixels, b: Pixels): Uint8Array<ArrayBuffer> {
  const { width, height } = a;
  const mask = new Uint8Array(width * height);
  const alike = (i: number) =>
    Math.abs(a.data[i]! - b.data[i]!) <= tolerance &&
    Math.abs(a.data[i + 1]! - b.data[i + 1]!) <= tolerance &&
    Math.abs(a.data[i + 2]! - b.data[i + 2]!) <= tolerance;
  const alone = (one: Uint8ClampedArray, other: Uint8ClampedArray, x: number, y: number) => {
    for (let channel = 0; channel < 3; channel++) {
      let [low, high] = [255, 0];
      for (let v = Math.max(0, y - 1); v <= Math.min(height - 1, y + 1); v++) {
        for (let u = Math.max(0, x - 1); u <= Math.min(width - 1, x + 1); u++) {
          const near = other[4 * (v * width + u) + channel]!;
          low = Math.min(low, near);
          high = Math.max(high, near);
        }
      }
      const mine = one[4 * (y * width + x) + channel]!;
      if (mine < low - tolerance || mine > high + tolerance) return true;
    }
    return false;
  };
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const at = y * width + x;
      if (!alike(4 * at) && (alone(a.data, b.data, x, y) || alone(b.data, a.data, x, y))) mask[at] = 1;
    }
  }
  return mask;
}
