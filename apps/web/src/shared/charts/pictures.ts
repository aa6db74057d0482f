/** Twice the resolution of a screen, so that it prints cleanly. */
const ENLARGED = 2;
const FAMILY = "Source Sans 3 Variable";
const NEEDED = /U\+0-FF|U\+0000|U\+100-2BA|U\+0100/i;

const asDataUrl = (blob: Blob): Promise<string> =>
  new Promise((resolve, reject) => {
    const reader = new FileReader();
    reader.onload = () => resolve(reader.result as string);
    reader.onerror = () => reject(reader.error!);
    reader.readAsDataURL(blob);
  });

/** The page's typeface as text to be put into a picture, which cannot reach the page's own. */
async function embeddedFont(): Promise<string> {
  const faces = [...document.styleSheets]
    .flatMap((sheet) => [...sheet.cssRules])
    .filter(
      (rule): rule is CSSFontFaceRule =>
        rule instanceof CSSFontFaceRule &&
        rule.style.getPropertyValue("font-family").includes(FAMILY) &&
        NEEDED.test(rule.style.getPropertyValue("unicode-range")),
    );
  const texts = await Promise.all(
    faces.map(async (face) => {
      const address = /url\(["']?([^"')]+)["']?\)/.exec(face.style.getPropertyValue("src"))?.[1];
      if (address === undefined) return "";
      const font = await asDataUrl(
        await (await fetch(new URL(address, face.parentStyleSheet?.href ?? document.baseURI))).blob(),
      );
      return `@font-face { font-family: "${FAMILY}"; font-weight: 200 900; src: url(${font}); unicode-range: ${face.style.getPropertyValue("unicode-range")}; }`;
    }),
  );
  return texts.join("\n");
}

/** A picture's text with the theme's colours written out, so that it looks the same by itself. */
function standingAlone(svg: SVGSVGElement, font: string): string {
  const copy = svg.cloneNode(true) as SVGSVGElement;
  const style = getComputedStyle(svg);
  const colours = [
    "--ground",
    "--ink",
    "--muted",
    "--hairline",
    "--adverse",
    "--favourable",
    "--undecided",
    "--brass",
    "--band",
    "--band-done",
  ]
    .map((name) => `${name}: ${style.getPropertyValue(name)};`)
    .join(" ");
  const sheet = document.createElementNS("http://www.w3.org/2000/svg", "style");
  sheet.textContent = `:root { ${colours} font-variant-numeric: tabular-nums; }\n${font}`;
  copy.setAttribute("xmlns", "http://www.w3.org/2000/svg");
  // What is drawn on the page has the page for its ground.
  const ground = document.createElementNS("http://www.w3.org/2000/svg", "rect");
  const { x, y, width, height } = svg.viewBox.baseVal;
  for (const [name, value] of Object.entries({ x, y, width, height })) ground.setAttribute(name, String(value));
  ground.setAttribute("fill", style.getPropertyValue("--ground").trim() || style.getPropertyValue("--color-base-100"));
  copy.prepend(sheet, ground);
  return new XMLSerializer().serializeToString(copy);
}

async function rasterised(svg: SVGSVGElement, font: string): Promise<Uint8Array> {
  const image = new Image();
  const { width, height } = svg.viewBox.baseVal;
  const address = URL.createObjectURL(new Blob([standingAlone(svg, font)], { type: "image/svg+xml" }));
  try {
    image.src = address;
    await image.decode();
    const canvas = document.createElement("canvas");
    canvas.width = width * ENLARGED;
    canvas.height = height * ENLARGED;
    canvas.getContext("2d")!.drawImage(image, 0, 0, canvas.width, canvas.height);
    const blob = await new Promise<Blob | null>((resolve) => canvas.toBlob(resolve, "image/png"));
    if (blob === null) throw new Error("The browser could not draw the picture; print it instead.");
    return new Uint8Array(await blob.arrayBuffer());
  } finally {
    URL.revokeObjectURL(address);
  }
}

/** As what a picture is saved: drawn in points, or in lines. */
export const PICTURE_FORMS = { png: "image/png", svg: "image/svg+xml" } as const;
export type PictureForm = keyof typeof PICTURE_FORMS;

const drawnAs = async (svg: SVGSVGElement, form: PictureForm, font: string): Promise<Uint8Array> =>
  form === "png" ? rasterised(svg, font) : new TextEncoder().encode(standingAlone(svg, font));

/** What the pictures come to: one file, or a zip of several. */
export interface Pictures {
  readonly name: string;
  readonly type: string;
  readonly data: Uint8Array;
}

/**
 * Draws pictures, one after another, each with its typeface in it; several come as one zip.
 * @param pages each with a viewBox
 * @param onDrawn is told how many are done, and may stop it
 */
export async function drawPictures(
  pages: readonly SVGSVGElement[],
  name: string,
  form: PictureForm,
  onDrawn: (done: number) => boolean = () => true,
): Promise<Pictures | null> {
  const font = await embeddedFont();
  const drawn: Uint8Array[] = [];
  for (const page of pages) {
    drawn.push(await drawnAs(page, form, font));
    if (!onDrawn(drawn.length)) return null;
  }
  if (drawn.length === 1) return { name: `${name}.${form}`, type: PICTURE_FORMS[form], data: drawn[0]! };
  const { zipSync } = await import("fflate");
  return {
    name: `${name}.zip`,
    type: "application/zip",
    data: zipSync(
      Object.fromEntries(
        drawn.map((data, i) => [`${name}-${String(i + 1).padStart(2, "0")}.${form}`, [data, { level: 0 }]]),
      ),
    ),
  };
}
