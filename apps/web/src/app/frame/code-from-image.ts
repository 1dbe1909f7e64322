/** The longer side a picture is read at, in pixels: a symbol needs no twelve megapixels, a drawing has no size at all. */
const SIDE = 1000;

/** What the code symbol on a picture says; null where none is found. The reader is loaded when it is first wanted. */
export async function codeFromImage(file: Blob): Promise<string | null> {
  const image = await pictureOf(file);
  return image ? codeInPicture(image, image.width, image.height) : null;
}

/** What the code symbol on this picture, or on this moment of a camera's, says; null where none is found. */
export async function codeInPicture(picture: CanvasImageSource, width: number, height: number): Promise<string | null> {
  const { prepareZXingModule, readBarcodes } = await import('zxing-wasm/reader');
  // Served by the house itself, beside its pages.
  prepareZXingModule({ overrides: { locateFile: (name: string) => `/reader/${name}` } });
  const [found] = await readBarcodes(pixels(picture, width, height), {
    formats: ['QRCode', 'DataMatrix', 'Code128'],
    maxNumberOfSymbols: 1,
  });
  return found?.text || null;
}

async function pictureOf(file: Blob): Promise<HTMLImageElement | null> {
  const image = new Image();
  try {
    // As an address of data: the house's pages load pictures from nowhere else.
    image.src = await dataUrl(file);
    await image.decode();
    return image;
  } catch {
    return null;
  }
}

function pixels(picture: CanvasImageSource, width: number, height: number): ImageData {
  const scale = SIDE / Math.max(width, height);
  const canvas = document.createElement('canvas');
  [canvas.width, canvas.height] = [Math.round(width * scale), Math.round(height * scale)];
  const context = canvas.getContext('2d')!;
  context.fillStyle = '#fff';
  context.fillRect(0, 0, canvas.width, canvas.height);
  context.drawImage(picture, 0, 0, canvas.width, canvas.height);
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
