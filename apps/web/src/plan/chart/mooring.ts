/** A bollard with its crossbar, twelve high and wide: what is moored, and does not sail until it is woken. */
export const MOORING = "M1 11 H11 M4.2 11 V4.5 Q4.2 1.5 6 1.5 Q7.8 1.5 7.8 4.5 V11 M1.8 5.5 H10.2";
