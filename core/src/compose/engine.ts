/**
 * Version of the typesetting engine. It is raised by whoever makes an unchanged book come out with other lines, and it is
 * kept with every file: a file that was signed off says under which engine it was made.
 */
export const ENGINE = 1;
