/** What a cost item pays for. */
export const ITEM_KINDS = ['labour', 'material', 'plant', 'subcontract', 'fee'] as const;
export type ItemKind = (typeof ITEM_KINDS)[number];
