/** Larger pictures are read smaller: a symbol needs no twelve megapixels. */
const MOST_PIXELS = 1600;

/** Smaller ones are read larger: a drawing has no size of its own. */
const LEAST_PIXELS = 1000;

/** What the code symbol on a picture says; null where none is found. The reader is loaded when it is first wanted. */
export async function codeFromImage(file: Blob): Promise<string | null> {
  const { BinaryBitmap, HybridBinarizer, MultiFormatReader, RGBLuminanceSource } = await import('@zxing/library');
  const picture = await drawn(file);
  if (!picture) return null;
  const { data, width, height } = picture;
  const grey = new Uint8ClampedArray(width * height);
  for (let pixel = 0; pixel < grey.length; pixel += 1)
    grey[pixel] = 0.3 * data[pixel * 4]! + 0.59 * data[pixel * 4 + 1]! + 0.11 * data[pixel * 4 + 2]!;
  try {
    return new MultiFormatReader()
      .decode(new BinaryBitmap(new HybridBinarizer(new RGBLuminanceSource(grey, width, height))))
      .getText();
  } catch {
    // The reader says "not found" by throwing.
    return null;
  }
}

async function drawn(file: Blob): Promise<ImageData | null> {
  const image = new Image();
  try {
    // As an address of data: the house's pages load pictures from nowhere else.
    image.src = await dataUrl(file);
    await image.decode();
  } catch {
    return null;
  }
  const side = Math.max(image.width, image.height);
  const scale = Math.min(MOST_PIXELS, Math.max(LEAST_PIXELS, side)) / side;
  const canvas = document.createElement('canvas');
  [canvas.width, canvas.height] = [Math.round(image.width * scale), Math.round(image.height * scale)];
  const context = canvas.getContext('2d')!;
  context.fillStyle = '#fff';
  context.fillRect(0, 0, canvas.width, canvas.height);
  context.drawImage(image, 0, 0, canvas.width, canvas.height);
  return context.getImageData(0, 0, canvas.width, canvas.height);
}

function dataUrl(file: Blob): Promise<string> {
  return new Promise((resolve, reject) => {
    const reader = new FileReader();
    reader.onload = () => resolve(String(reader.result));
    reader.onerror = () => reject(new Error('unreadable'));
    reader.readAsDataURL(file);
  });
}
