/** Kinds of pictures that are shown, by us and in what goes out; the server tells them by their first bytes. */
const kinds = ['image/png', 'image/jpeg', 'image/gif', 'image/webp', 'image/avif'];
/** So many points a browser can still hold at once: four bytes each. */
const mostPoints = 100_000_000;

const million = (points: number) => Math.round(points / 1_000_000).toLocaleString('en');

/** Refuses a file that could not be shown, with its name and the reason, before it is kept. */
export async function mustBeShowable(file: File): Promise<void> {
  if (!kinds.includes(file.type))
    throw new Error(`${file.name} can't be shown in a text: pictures are PNG, JPEG, GIF, WebP or AVIF.`);
  const address = URL.createObjectURL(file);
  try {
    const { naturalWidth, naturalHeight } = await new Promise<HTMLImageElement>((shown, refused) => {
      const picture = new Image();
      picture.onload = () => shown(picture);
      picture.onerror = () => refused(new Error(`${file.name} is no picture that can be read.`));
      picture.src = address;
    });
    const points = naturalWidth * naturalHeight;
    if (points > mostPoints)
      throw new Error(
        `${file.name} has ${million(points)} million points; the most is ${million(mostPoints)} million.`,
      );
  } finally {
    URL.revokeObjectURL(address);
  }
}
