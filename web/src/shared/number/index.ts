/** Numbers of the shot: their states, their control, typing and dragging them. */

export { arithmetic, arithmeticOf, typedNumber, WrongText } from "./arithmetic";
export { useFault } from "./FieldError";
export { figures } from "./figures";
export { makeDial } from "./makeDial";
export { NumberField } from "./NumberField";
export { ParamControl } from "./ParamControl";
export { PlainControl } from "./PlainControl";

export { ShareField } from "./ShareField";
export { Stacked } from "./Stacked";
export { StackedNumber } from "./StackedNumber";
export { beingRead, useAfterTyped } from "./useAfterTyped";
export { useNumberAt } from "./useNumberAt";
export { useReading } from "./useReading";
export { useRecording } from "./useRecording";
export { useWanted } from "./useWanted";
