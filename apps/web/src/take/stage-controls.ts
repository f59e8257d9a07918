import { ref, type Ref } from 'vue';

/** How the picture stands in the stage: behind the figure as it was filmed, or beside it and turned to who looks. */
export const PICTURE_PLACES = ['off', 'behind', 'facing'] as const;
export type PicturePlace = (typeof PICTURE_PLACES)[number];

/** Where one can look from. */
export const STANDARD_VIEWS = ['front', 'left', 'right', 'above', 'camera'] as const;
/** Parts that can be looked at near by, on the stage and in the picture. */
export const CLOSE_UPS = ['face', 'left hand', 'right hand'] as const;
export type CloseUp = (typeof CLOSE_UPS)[number];
export type StandardView = (typeof STANDARD_VIEWS)[number] | CloseUp;

export const isCloseUp = (view: StandardView): view is CloseUp => (CLOSE_UPS as readonly string[]).includes(view);

/** What the 3D stage can be told to do. */
export interface StageControls {
  view: Ref<StandardView>;
  /** Counts how often a view was asked for: asked again, it comes back to where it was turned away from. */
  asked: Ref<number>;
  following: Ref<boolean>;
  /** Whether the ways of hands, feet and head are shown. */
  trails: Ref<boolean>;
  /** Whether the figure is shown in frames around the shown one as well. */
  ghosts: Ref<boolean>;
  /** Whether others who were captured in the same frames are shown. */
  company: Ref<boolean>;
  /** How the picture stands in the stage. */
  picture: Ref<PicturePlace>;
  /** Whether the curves of hands and face are shown. */
  curves: Ref<boolean>;
  look: (view: StandardView) => void;
  /** The picture stands in the next of its ways. */
  nextPicture: () => void;
}

export function stageControls(): StageControls {
  const view = ref<StandardView>('front');
  const asked = ref(0);
  const picture = ref<PicturePlace>('off');
  const look = (wanted: StandardView): void => {
    view.value = wanted;
    asked.value++;
  };
  return {
    view,
    asked,
    following: ref(true),
    trails: ref(false),
    ghosts: ref(false),
    company: ref(true),
    picture,
    curves: ref(false),
    look,
    nextPicture: () => {
      picture.value = PICTURE_PLACES[(PICTURE_PLACES.indexOf(picture.value) + 1) % PICTURE_PLACES.length];
    },
  };
}
