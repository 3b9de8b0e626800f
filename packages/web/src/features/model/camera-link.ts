import type { CameraPlace } from '../../viewer/index.ts';

/** A view that stands somewhere and can be moved. */
interface Standing {
  readonly cameraPlace: CameraPlace;
  readonly standAt: (place: CameraPlace) => void;
  readonly onTurned: (listener: () => void) => () => void;
}

/** Lets views stand where one of them was moved to. */
export class CameraLink {
  private readonly views = new Set<Standing>();
  private isFollowing = false;

  /** Links a view with those that are; returns the way out. */
  join(view: Standing): () => void {
    this.views.add(view);
    const stop = view.onTurned(() => this.follow(view));
    return () => {
      stop();
      this.views.delete(view);
    };
  }

  private follow(moved: Standing): void {
    // Views that follow move too: that moves nobody.
    if (this.isFollowing) return;
    this.isFollowing = true;
    try {
      for (const view of this.views) if (view !== moved) view.standAt(moved.cameraPlace);
    } finally {
      this.isFollowing = false;
    }
  }
}
