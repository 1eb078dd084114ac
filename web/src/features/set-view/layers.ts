/** three's layer of things that only the outside view shows. */
import { Layers } from "three";

export const OUTSIDE_LAYER = 1;

export const OUTSIDE = new Layers();
OUTSIDE.set(OUTSIDE_LAYER);
