/** The namespace of the recommendation, and of what this product adds to it. */
export const SCXML = "http://www.w3.org/2005/07/scxml";
export const EXTENSION = "urn:zigzag-lane:workflow:1";
