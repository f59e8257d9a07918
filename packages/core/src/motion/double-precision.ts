import { glMatrix } from 'gl-matrix';

/** Vectors made by gl-matrix hold doubles in this product: single precision costs tenths of millimetres over a chain of bones. */
glMatrix.setMatrixArrayType(Array);
