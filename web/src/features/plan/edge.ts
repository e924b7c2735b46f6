/** What the picture of an edge on the table asks for. */
export const SEEN: readonly string[] = ['lies', 'gauge_side', 'hinge']
