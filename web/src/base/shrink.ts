/** A photo made small on the device, before it waits: a phone's 48 megapixels must never be what fails. */
export const LONG_SIDE = 1600;
const QUALITY = 0.82;
/** Small enough to wait as it is. */
const SMALL_BYTES = 700_000;
/** What the server takes as it is, when this device cannot make it smaller. */
export const MOST_BYTES = 8 * 1024 * 1024;

const within = (width: number, height: number) => {
  const scale = Math.min(1, LONG_SIDE / Math.max(width, height));
  return { width: Math.max(1, Math.round(width * scale)), height: Math.max(1, Math.round(height * scale)) };
};

function drawn(source: CanvasImageSource, size: { width: number; height: number }): Promise<Blob | null> {
  const canvas = document.createElement("canvas");
  canvas.width = size.width;
  canvas.height = size.height;
  canvas.getContext("2d")?.drawImage(source, 0, 0, size.width, size.height);
  return new Promise((resolve) => canvas.toBlob(resolve, "image/jpeg", QUALITY));
}

/** Decoded straight to the small size where the browser can: the large picture is never held whole. */
async function decodedSmall(file: Blob): Promise<Blob | null> {
  const probe = await createImageBitmap(file, {
    resizeWidth: LONG_SIDE,
    resizeQuality: "high",
    imageOrientation: "from-image",
  });
  const size = within(probe.width, probe.height);
  const small = await drawn(probe, size);
  probe.close();
  return small;
}

/** The other way: an image element, which a browser decodes in parts. */
function throughElement(file: Blob): Promise<Blob | null> {
  const url = URL.createObjectURL(file);
  return new Promise<Blob | null>((resolve) => {
    const image = new Image();
    image.onload = () =>
      void drawn(image, within(image.naturalWidth, image.naturalHeight)).then(resolve, () => resolve(null));
    image.onerror = () => resolve(null);
    image.src = url;
  }).finally(() => URL.revokeObjectURL(url));
}

/** The photo as it is sent. Whichever way fails, the next is tried; at last the file itself, which the server scales. */
export async function shrunk(file: Blob): Promise<Blob> {
  if (file.size <= SMALL_BYTES) return file;
  for (const way of [decodedSmall, throughElement]) {
    const small = await way(file).catch(() => null);
    if (small !== null && small.size > 0) return small;
  }
  return file;
}
