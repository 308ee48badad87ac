/** Draws a sheet of pictures on one: for a colleague who has no workbench. */
import { t } from "@/core/messages/t";

export interface PictureCell {
  row: string;
  column: string;
  /** A data address; undefined where no picture could be made. */
  picture: string | undefined;
  /** What is said under it. */
  says: string;
  marked: boolean;
}

const gap = 24;
const label = 44;

const load = (src: string): Promise<HTMLImageElement> =>
  new Promise((resolve, reject) => {
    const image = new Image();
    image.onload = () => resolve(image);
    image.onerror = () => reject(new Error(t("no picture")));
    image.src = src;
  });

/** One PNG of all cells, in so many columns. @returns undefined if the browser makes none */
export async function drawSheet(
  title: string,
  cells: readonly PictureCell[],
  columns: number,
  size: { width: number; height: number },
): Promise<Blob | undefined> {
  const rows = Math.ceil(cells.length / columns);
  const canvas = document.createElement("canvas");
  canvas.width = gap + columns * (size.width + gap);
  canvas.height = 64 + rows * (size.height + label + gap);
  const pen = canvas.getContext("2d");
  if (!pen) return undefined;
  pen.fillStyle = "#f5f3ee";
  pen.fillRect(0, 0, canvas.width, canvas.height);
  pen.fillStyle = "#1f242c";
  pen.font = "600 22px Georgia, serif";
  pen.fillText(title, gap, 40);
  for (const [index, cell] of cells.entries()) {
    const x = gap + (index % columns) * (size.width + gap);
    const y = 64 + Math.floor(index / columns) * (size.height + label + gap);
    pen.fillStyle = "#1f242c";
    pen.font = "600 13px system-ui, sans-serif";
    pen.fillText(`${cell.row} · ${cell.column}`, x, y + 14, size.width);
    pen.fillStyle = "#5c636e";
    pen.font = "12px system-ui, sans-serif";
    pen.fillText(cell.says, x, y + 31, size.width);
    pen.fillStyle = "#fff";
    pen.fillRect(x, y + label, size.width, size.height);
    const image = cell.picture ? await load(cell.picture).catch(() => undefined) : undefined;
    if (image) {
      const scale = Math.min(size.width / image.width, size.height / image.height);
      const [wide, tall] = [image.width * scale, image.height * scale];
      pen.save();
      pen.beginPath();
      pen.rect(x, y + label, size.width, size.height);
      pen.clip();
      pen.drawImage(image, x + (size.width - wide) / 2, y + label, wide, tall);
      pen.restore();
    } else {
      pen.fillStyle = "#5c636e";
      pen.fillText(t("No picture could be made"), x + 12, y + label + 24);
    }
    pen.lineWidth = cell.marked ? 4 : 1;
    pen.strokeStyle = cell.marked ? "#b3382c" : "#dcd7cc";
    pen.strokeRect(x, y + label, size.width, size.height);
  }
  return new Promise((resolve) => canvas.toBlob((blob) => resolve(blob ?? undefined), "image/png"));
}
