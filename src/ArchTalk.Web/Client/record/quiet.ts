// Whether somebody who speaks has become quieter than at the beginning of the take, which one doesn't notice oneself. The figures are
// common practice, no source.

/** Below this share of full scale nobody speaks into a microphone on a desk (about -46 dB). */
const speech = 0.005;

/** So much speech (ms) at the beginning says how loud it is meant to be. */
const beginningMs = 8000;

/** The last so much speech (ms) is compared with it. */
const lastMs = 6000;

/** Quieter by this many dB is worth saying, and it is said until it is nearer than the second. */
const quieterDb = 8;
const backDb = 5;

/** Frames that come later than this (ms) after the one before were not heard in between. */
const longestFrameMs = 250;

export class QuietWatch {
  private beginning = { energy: 0, ms: 0 };
  private last = 0;
  private heardAt = 0;
  private isQuiet = false;

  /** @param rms Of what was just heard, a share of full scale. @param now In ms. Gives whether the voice has become quiet. */
  hear(rms: number, now: number): boolean {
    const ms = Math.min(longestFrameMs, this.heardAt > 0 ? now - this.heardAt : 0);
    this.heardAt = now;
    if (rms < speech || ms <= 0) {
      return this.isQuiet;
    }

    const energy = rms * rms;
    if (this.beginning.ms < beginningMs) {
      this.beginning = { energy: this.beginning.energy + energy * ms, ms: this.beginning.ms + ms };
      this.last = this.beginning.energy / this.beginning.ms;
      return false;
    }

    this.last += (energy - this.last) * Math.min(1, ms / lastMs);
    const db = 10 * Math.log10(this.last / (this.beginning.energy / this.beginning.ms));
    this.isQuiet = db < (this.isQuiet ? -backDb : -quieterDb);
    return this.isQuiet;
  }
}
