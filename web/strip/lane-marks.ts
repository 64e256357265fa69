import { MARKS, markOutline } from '../../core/model/marks.ts';
import { MARK_RADIUS, type PlacedMark, apart } from './layout.ts';

/** Lanes of so many marks are kept as pictures. */
const MANY_MARKS = 60;
/** Of more marks that differ than this a lane is drawn from the start. */
const FEW = 40;
/** Side of the small picture of a mark, in px. */
const STAMP = 2 * MARK_RADIUS + 4;

/** What marks are drawn in: a colour for each, and that of the sheet. */
interface MarkInks {
  marks: readonly string[];
  sheet: string;
}

/** The marks of a lane, and where it lies. */
export interface DrawnLane {
  /** From the top. */
  lane: number;
  /** Which of the twelve marks. */
  mark: number;
  marks: readonly PlacedMark[];
  /** In px, as the width is. */
  laneHeight: number;
  width: number;
}

/** A lane as it was drawn. */
interface LanePicture {
  /** Where, how large and in which mark. */
  key: string;
  drawn: readonly PlacedMark[];
  canvas: HTMLCanvasElement;
}

/** The marks that one list has and the other has not. */
function different(a: readonly PlacedMark[], b: readonly PlacedMark[]): PlacedMark[] {
  const [inA, inB] = [new Set(a), new Set(b)];
  return [...a.filter((mark) => !inB.has(mark)), ...b.filter((mark) => !inA.has(mark))];
}

const contextOf = (canvas: HTMLCanvasElement) => canvas.getContext('2d') as CanvasRenderingContext2D;

/** The small pictures of all marks, drawn once and stamped from then on: filled ones above hollow ones. */
interface Stamps {
  /** One picture for all: each more would take longer to make than a decision takes to be drawn. */
  sheet: HTMLCanvasElement;
  /** Of one, in px of the screen. */
  side: number;
}

function stampsIn(inks: MarkInks, ratio: number): Stamps {
  const sheet = document.createElement('canvas');
  const side = Math.ceil(STAMP * ratio);
  sheet.width = MARKS.length * side;
  sheet.height = 2 * side;
  const context = contextOf(sheet);
  MARKS.forEach((_, mark) => {
    const outline = new Path2D(markOutline(mark));
    const colour = inks.marks[mark] as string;
    for (const out of [false, true]) {
      context.save();
      context.translate((mark + 0.5) * side, (out ? 1.5 : 0.5) * side);
      context.scale(MARK_RADIUS * ratio, MARK_RADIUS * ratio);
      if (out) {
        context.lineWidth = 1.6 / MARK_RADIUS;
        context.strokeStyle = colour;
      } else {
        context.fillStyle = colour;
        context.fill(outline);
        // A hair of the sheet's colour keeps neighbours apart.
        context.lineWidth = 0.8 / MARK_RADIUS;
        context.strokeStyle = inks.sheet;
      }
      context.stroke(outline);
      context.restore();
    }
  });
  return { sheet, side };
}

/**
 * Draws the marks of lanes. Of a lane of many a picture is kept, so that what changes in another lane draws none of them
 * again, and what changes in this one only what lies about it.
 */
export class LaneMarks {
  private readonly stamps: Stamps;
  /** By the lane. */
  private readonly pictures: LanePicture[] = [];

  /** @param ratio px of the screen for one of the page */
  constructor(
    inks: MarkInks,
    readonly ratio: number,
  ) {
    this.stamps = stampsIn(inks, ratio);
  }

  draw(context: CanvasRenderingContext2D, { lane, mark, marks, laneHeight, width }: DrawnLane): void {
    const drawn = apart(marks);
    if (drawn.length < MANY_MARKS) {
      for (const placed of drawn) this.stampOn(context, mark, placed, (px) => px);
      return;
    }
    const [top, height] = [lane * laneHeight - STAMP, laneHeight + 2 * STAMP];
    const key = [mark, top, height, width].join(' ');
    let picture = this.pictures[lane];
    if (picture?.key !== key || !this.drawOver(picture, drawn, mark)) {
      const canvas = document.createElement('canvas');
      canvas.width = Math.ceil(width * this.ratio);
      canvas.height = Math.ceil(height * this.ratio);
      const on = contextOf(canvas);
      on.scale(this.ratio, this.ratio);
      on.translate(0, -top);
      for (const placed of drawn) this.stampOn(on, mark, placed, this.wholePixels);
      picture = { key, drawn, canvas };
      this.pictures[lane] = picture;
    }
    const { canvas } = picture;
    context.drawImage(canvas, 0, top, canvas.width / this.ratio, canvas.height / this.ratio);
  }

  /** Draws over a picture where a few of its marks differ. @returns whether it shows these marks now */
  private drawOver(picture: LanePicture, drawn: readonly PlacedMark[], mark: number): boolean {
    if (picture.drawn === drawn) return true;
    const differing = different(picture.drawn, drawn);
    if (differing.length > FEW) return false;
    const on = contextOf(picture.canvas);
    const side = this.wholePixels(2 * STAMP);
    for (const { x, y } of differing) {
      const box = [this.wholePixels(x - STAMP), this.wholePixels(y - STAMP), side, side] as const;
      on.save();
      on.beginPath();
      on.rect(...box);
      on.clip();
      on.clearRect(...box);
      for (const placed of drawn)
        if (Math.abs(placed.x - x) < 2 * STAMP && Math.abs(placed.y - y) < 2 * STAMP)
          this.stampOn(on, mark, placed, this.wholePixels);
      on.restore();
    }
    picture.drawn = drawn;
    return true;
  }

  /** Among so many marks none is seen to lie half a pixel elsewhere, and on whole ones they are drawn in half the time. */
  private readonly wholePixels = (px: number): number => Math.round(px * this.ratio) / this.ratio;

  private stampOn(
    on: CanvasRenderingContext2D,
    mark: number,
    { mark: { out }, x, y }: PlacedMark,
    placeOf: (px: number) => number,
  ): void {
    const { sheet, side } = this.stamps;
    on.drawImage(
      ...([sheet, (mark % MARKS.length) * side, out ? side : 0, side, side] as const),
      ...([placeOf(x - STAMP / 2), placeOf(y - STAMP / 2), STAMP, STAMP] as const),
    );
  }
}
