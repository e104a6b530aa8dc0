/** What is dragged from the list of viewpoints to the ruler. */
export const VIEWPOINT_DRAG = 'application/x-yoroi-viewpoint'
