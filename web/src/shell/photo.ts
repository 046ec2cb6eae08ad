/** Longest side a photograph is kept at, px. */
const LONGEST = 2000;

/** A photograph made smaller where it is larger than needed; other files as they are. */
export async function smallerPhoto(file: File, longest = LONGEST): Promise<Blob> {
  if (!file.type.startsWith('image/') || file.size < 600_000) return file;
  const picture = await createImageBitmap(file);
  const scale = Math.min(1, longest / Math.max(picture.width, picture.height));
  const canvas = new OffscreenCanvas(Math.round(picture.width * scale), Math.round(picture.height * scale));
  canvas.getContext('2d')!.drawImage(picture, 0, 0, canvas.width, canvas.height);
  return canvas.convertToBlob({ type: 'image/jpeg', quality: 0.85 });
}

/** Bytes as base64, as entries carry them. */
export async function base64Of(blob: Blob): Promise<string> {
  const bytes = new Uint8Array(await blob.arrayBuffer());
  let text = '';
  for (let i = 0; i < bytes.length; i += 0x8000)
    text += String.fromCharCode(...bytes.subarray(i, i + 0x8000));
  return btoa(text);
}
