/** rows that the finest levels and the windows on them reach beyond a band */
export const REACH = 32;
