/**
 * The parts of the face that have a branch of their own in the attention network: which of the 468
 * marks each refines, in the order of the branch's output, and the two marks that tell its turn. The
 * lists are the `subset_idxs` options of the network's own operators; a test compares them.
 */
export interface FacePart {
  readonly indices: readonly number[];
  /** From the performer's right to the left. */
  readonly from: number;
  readonly to: number;
}

export const LIPS: FacePart = {
  from: 61,
  to: 291,
  indices: [
    61, 146, 91, 181, 84, 17, 314, 405, 321, 375, 291, 185, 40, 39, 37, 0, 267, 269, 270, 409, 78, 95, 88, 178, 87, 14,
    317, 402, 318, 324, 308, 191, 80, 81, 82, 13, 312, 311, 310, 415, 76, 77, 90, 180, 85, 16, 315, 404, 320, 307, 306,
    184, 74, 73, 72, 11, 302, 303, 304, 408, 62, 96, 89, 179, 86, 15, 316, 403, 319, 325, 292, 183, 42, 41, 38, 12, 268,
    271, 272, 407,
  ],
};

export const RIGHT_EYE: FacePart = {
  from: 33,
  to: 133,
  indices: [
    33, 7, 163, 144, 145, 153, 154, 155, 133, 246, 161, 160, 159, 158, 157, 173, 130, 25, 110, 24, 23, 22, 26, 112, 243,
    247, 30, 29, 27, 28, 56, 190, 226, 31, 228, 229, 230, 231, 232, 233, 244, 113, 225, 224, 223, 222, 221, 189, 35,
    124, 46, 53, 52, 65, 143, 111, 117, 118, 119, 120, 121, 128, 245, 156, 70, 63, 105, 66, 107, 55, 193,
  ],
};

export const LEFT_EYE: FacePart = {
  from: 362,
  to: 263,
  indices: [
    263, 249, 390, 373, 374, 380, 381, 382, 362, 466, 388, 387, 386, 385, 384, 398, 359, 255, 339, 254, 253, 252, 256,
    341, 463, 467, 260, 259, 257, 258, 286, 414, 446, 261, 448, 449, 450, 451, 452, 453, 464, 342, 445, 444, 443, 442,
    441, 413, 265, 353, 276, 283, 282, 295, 372, 340, 346, 347, 348, 349, 350, 357, 465, 383, 300, 293, 334, 296, 336,
    285, 417,
  ],
};
