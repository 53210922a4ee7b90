import { api, type Corners, type Spot } from "../page";
import { part } from "../../shared/alpine";
import type { BoardPage } from "./whole";

const names = ["topLeft", "topRight", "bottomRight", "bottomLeft"] as const;

/** Corners that nobody has found yet: a little within the picture. */
const asDrawn: Corners = {
  topLeft: { x: 0.05, y: 0.05 },
  topRight: { x: 0.95, y: 0.05 },
  bottomRight: { x: 0.95, y: 0.95 },
  bottomLeft: { x: 0.05, y: 0.95 },
};

/** How far an arrow key moves a corner, as a share of the picture. */
const keyStep = 0.002;

/** The corners of a photographed page, dragged on the picture as it came. */
export const corners = () =>
  part<BoardPage>()({
    corners: asDrawn,
    cornersPicture: "",

    openCorners(): void {
      const { turn, corners: found } = this.scan!;
      this.corners = JSON.parse(JSON.stringify(found ?? asDrawn)) as Corners;
      this.cornersPicture = `${api}/scan/original?turn=${turn}`;
      (this.$refs["corners"] as unknown as HTMLDialogElement).showModal();
    },

    closeCorners(): void {
      (this.$refs["corners"] as unknown as HTMLDialogElement).close();
    },

    async useCorners(): Promise<void> {
      this.closeCorners();
      await this.work(() => this.applyScan({ ...this.scan!, corners: this.corners, degrees: 0, left: 0, top: 0, right: 0, bottom: 0 }));
    },

    async useWhole(): Promise<void> {
      this.closeCorners();
      await this.work(() => this.applyScan({ ...this.scan!, corners: null }));
    },

    get cornersLine(): string {
      return names.map((n) => `${this.corners[n].x * 100},${this.corners[n].y * 100}`).join(" ");
    },

    cornerStyle(index: number): Record<string, string> {
      const corner = this.corners[names[index]!];
      return { left: `${corner.x * 100}%`, top: `${corner.y * 100}%` };
    },

    liftCorner(event: PointerEvent): void {
      (event.currentTarget as HTMLElement).setPointerCapture(event.pointerId);
    },

    dragCorner(event: PointerEvent): void {
      const handle = event.currentTarget as HTMLElement;
      if (handle.hasPointerCapture(event.pointerId)) {
        const box = handle.parentElement!.getBoundingClientRect();
        this.moveCorner(handle, { x: (event.clientX - box.left) / box.width, y: (event.clientY - box.top) / box.height });
      }
    },

    stepCorner(event: KeyboardEvent): void {
      const [dx, dy] = ({ ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] } as Record<string, [number, number]>)[
        event.key
      ] ?? [0, 0];
      if (dx !== 0 || dy !== 0) {
        event.preventDefault();
        const handle = event.currentTarget as HTMLElement;
        const by = keyStep * (event.shiftKey ? 10 : 1);
        const at = this.corners[names[Number(handle.dataset["corner"])]!];
        this.moveCorner(handle, { x: at.x + dx * by, y: at.y + dy * by });
      }
    },

    moveCorner(handle: HTMLElement, to: Spot): void {
      const within = (n: number) => Math.min(1, Math.max(0, n));
      this.corners = { ...this.corners, [names[Number(handle.dataset["corner"])]!]: { x: within(to.x), y: within(to.y) } };
    },
  });
