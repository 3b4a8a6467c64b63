/** Length of a cell along its row in mm. */
export const CELL_MM = 0.4;
