export { type PagePlan, type PageShape, type Plan } from './pagestate';
export { planPages } from './plan';
export { heldRows } from './floats';
export { Trail } from './trail';
export { type Edge, edgesOf } from './edges';
