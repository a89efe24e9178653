/** Pixels of a picture's longer side that are more than any device shows. */
const LONGEST = 1800;
const QUALITY = 0.92;
const KINDS = ["image/jpeg", "image/png", "image/webp"];

/** The picture of a file, upright and no larger than it need be, as base64. Throws a sentence. */
export async function pictureData(file: Blob): Promise<string> {
  if (!KINDS.includes(file.type)) throw new Error("Take a JPEG, PNG or WebP.");
  const seen = await createImageBitmap(file).catch(() => null);
  if (!seen) throw new Error("This is no picture that can be read.");
  const scale = Math.min(1, LONGEST / Math.max(seen.width, seen.height));
  const canvas = document.createElement("canvas");
  canvas.width = Math.max(1, Math.round(seen.width * scale));
  canvas.height = Math.max(1, Math.round(seen.height * scale));
  const ground = canvas.getContext("2d");
  if (!ground) throw new Error("This browser can't read pictures here.");
  ground.fillStyle = "white";
  ground.fillRect(0, 0, canvas.width, canvas.height);
  ground.drawImage(seen, 0, 0, canvas.width, canvas.height);
  return canvas.toDataURL("image/jpeg", QUALITY).split(",")[1] ?? "";
}
