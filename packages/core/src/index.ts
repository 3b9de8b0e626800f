/** The whole of core, by name. Files are grouped as their folders. */

export { type Baseline, decodeBaseline, encodeBaseline, type FrozenSource } from './baselines/baseline-file.ts';
export { type BaselineDrift, holdBaseline } from './baselines/hold-baseline.ts';
export { type Assembly, type AssemblyParameter, type BuildUpLine, LINE_RUNS, type LineRun, listLineIds, TEXT_UNIT } from './book/assembly.ts'; // biome-ignore format: one module
export { chooseClassification, findClass, findClassification, listClassPath, readClassCode, readClasses, type SkippedClass, setClassCode, showClass } from './book/classification.ts'; // biome-ignore format: one module
export { isConsumption, readConsumption } from './book/consumption.ts';
export type { ClassCodes, Classification, CostClass } from './book/cost-class.ts'; // biome-ignore format: one module
export { buyWhole, type CostItem, isRateWorkedOut, type SoldAs, UNUSUAL_WASTE } from './book/cost-item.ts';
export { ITEM_KINDS, type ItemKind } from './book/item-kind.ts';
export { type KindSplit, readSplit, showSplit } from './book/kind-split.ts';
export { compileValues, type NamedValue, valueToFormula } from './book/named-value.ts';
export { parseRate } from './book/parse-rate.ts';
export { bandId, type PriceBand } from './book/price-band.ts';
export { type ExchangeRate, type KindShares, listRateSteps, listShares, type PriceFactor, type RateStep, toFactor } from './book/price-factors.ts'; // biome-ignore format: one module
export { type ChangedPrice, comparePrices, findProfile, guessProfile, makeProfile, type PriceComparison, type PriceRow, readPriceRows, replacesFormula, SHEET_COLUMNS, type SheetColumn, type SheetProfile, type SkippedRow } from './book/price-sheet.ts'; // biome-ignore format: one module
export { type DecimalSign, findDecimalSign, isSignSure, readPrice } from './book/price-text.ts';
export { compileScale, compileScales, describeRange, type Scale, type ScaleKey, type ScaleRange, type ScaleRow } from './book/scale.ts'; // biome-ignore format: one module
export type { Sheet, SheetCell } from './book/sheet.ts'; // biome-ignore format: one module
export { type PricePlace, withPrice } from './book/sheet-price-place.ts';
export { readSoldAs, showSoldAs } from './book/sold-as-text.ts';
export { UNIFORMAT } from './book/uniformat.ts';
export { type EvaluatedLine, LineState } from './cells/cell-line.ts';
export { evaluateLines } from './cells/evaluate-lines.ts';
export type { ExplainedStep } from './cells/explain-step.ts';
export type { FormulaTrace } from './cells/row-reader.ts';
export { evaluateOnElement, traceLeaf } from './cells/trace-line.ts';
export { type AcceptedPrices, acceptPrices } from './changes/accept-prices.ts';
export { changeAttribute, changeBodies, countWords, type WordedChange } from './changes/change-bodies.ts';
export { type ChangedElement, diffElements, type ElementDiff, type FromTo } from './changes/diff-elements.ts';
export { applyDiff, compareEntries, diffEntries, type Entry, type EntryDiff, invertDiff, isEmptyDiff, isSameBody, listTouchedEntries, sortFields } from './changes/entry-diff.ts'; // biome-ignore format: one module
export { checkSameMoney, type ElementMove, explainMove, type Move, sumElementMoves } from './changes/explain-move.ts';
export { type GroupMove, groupMove } from './changes/group-move.ts';
export { keepIdentity } from './changes/keep-identity.ts';
export { countNoChanges, ELEMENT_CHANGES, type ElementChange, type ElementChangeKind, listElementChanges } from './changes/list-element-changes.ts'; // biome-ignore format: one module
export { type CauseAmounts, MOVE_CAUSES, type MoveCause, noCauses, sumCauses } from './changes/move-causes.ts'; // biome-ignore format: one module
export type { CellPlace, MoveCell } from './changes/move-cell.ts';
export type { MoveState } from './changes/move-state.ts';
export { BOOK_KINDS, foldName, isBookKind, listOwnEntries, type OwnEntries, orderBook, overlayEntries, TAKEN_OUT } from './changes/overlay-entries.ts'; // biome-ignore format: one module
export { type LoggedItem, type PastRate, readRateHistory } from './changes/rate-history.ts';
export { bringBackDiff, settleDiff, takeOutDiff } from './changes/settle-diff.ts';
export { type ShownMove, shareCauses, showMove } from './changes/show-move.ts';
export { addsTyped, findTooAlike } from './changes/too-alike.ts';
export { findRedoable, findUndoable, listTakenBack, type UndoRecord } from './changes/undo-order.ts';
export { checkElements, checkStatedRows, findSamePlaces, reportMissingDensities } from './checks/check-elements.ts';
export { type CheckThresholds, checkTable, type FindingConsequences, keepConsequential, LIVE_CODES, readConsequences } from './checks/check-live.ts'; // biome-ignore format: one module
export { checkFinishes, checkFloors, checkModel, checkStoreyLevels } from './checks/check-model.ts';
export { LEAST_SHARED, measureSharedBodies, OVERLAP_SHARE, type PlacedBody, reportOverlaps, SAME_PLACE_SHARE, type SharedLabel } from './checks/check-overlaps.ts'; // biome-ignore format: one module
export { checkPlan } from './checks/check-plan.ts';
export { type CaughtCounts, checkShiftedRules } from './checks/check-shifted-rules.ts';
export { FINDING_CODES, type Finding, type FindingCode, findingKey, formerFindingKey, keyFindings } from './checks/finding.ts'; // biome-ignore format: one module
export { bundleFindings, type FindingLine } from './checks/finding-table.ts';
export { type GiveAttributeRequest, giveAttributeSchema } from './contract/attributes.ts';
export { type BookDto, type BookVersionDto, type ClassListDto, type PinnedBook, pinnedBookSchema, publishBookSchema } from './contract/book.ts'; // biome-ignore format: one module
export { assemblySchema, bandSchema, costItemSchema, namedValueSchema, scaleSchema } from './contract/book-schemas.ts';
export { type ChangeDto, changeSchema, type MoveDto, type ProjectEffectDto, previewSchema } from './contract/change.ts';
export {
  type ComparedElementDto,
  type ComparisonDto,
  type GroupMoveDto,
  stateRefSchema,
} from './contract/comparison.ts';
export { composeProject } from './contract/compose-project.ts';
export { deskSchema } from './contract/desk.ts';
export { diffSchema, ENTRY_SCHEMAS, type EntryKind } from './contract/entries.ts';
export type { EventDto } from './contract/event.ts';
export { diffTemplate, fitTemplate, type Misfit, type TemplateFit } from './contract/fit-template.ts';
export { countOpenLines, listFindingLines, listProjectFindings, sumOpenStake } from './contract/listed-findings.ts';
export { allowanceSchema, type ListFileDto, type ListPreviewDto, listOrderSchema, listProfileSchema } from './contract/lists.ts'; // biome-ignore format: one module
export { type BehindDto, type CheckedDto, type ElementCostDto, type ElementStatesDto, MOST_PLAN_LINES, type OutlineTable, outlineTableSchema, type PlanDto, type PlanManifestDto, type PlanSummaryDto, type PurchaseDto, type TablePartsDto } from './contract/plan.ts'; // biome-ignore format: one module
export {
  type BaselineBody,
  baselineSchema,
  markedSchema,
  type PlanNote,
  type PlanView,
  planViewSchema,
} from './contract/plan-entries.ts';
export { comparePricesSchema, describeSome, type PriceFileDto, type PriceSheetDto, pickSome, priceFileSchema, type Some, type WantedPrices, wantPricesSchema } from './contract/prices.ts'; // biome-ignore format: one module
export type { ProblemDto } from './contract/problem.ts';
export { createProjectSchema, type ProjectBookDto, type ProjectDto, type ProjectListDto, type ProjectStateDto, renameProjectSchema } from './contract/project.ts'; // biome-ignore format: one module
export { applyAdditions, buildProjectAllowances, measureParts, type ProjectAdditions, readAdditions } from './contract/project-additions.ts'; // biome-ignore format: one module
export { type ProjectContents, readContents } from './contract/project-contents.ts';
export { receiveParts, sendParts } from './contract/send-parts.ts';
export { ENTRY_SLICES, type EntrySlice, type EntrySliceDto, type FindingsPageDto, type HeldSlice, type ListedFinding, listDiffSlices, mergeSlice, type ProjectSourcesDto, type ProjectSummaryDto, sliceOfKind } from './contract/slices.ts'; // biome-ignore format: one module
export type { CheckedRevision, DropFolderDto, JobDto, RevisionDto, SourceDto } from './contract/source.ts';
export { targetSchema } from './contract/target.ts';
export { conditionSchema, pinSchema, readTemplate, ruleSchema, sectionSchema, settingsSchema, TEMPLATE_FORMAT, type Template, templateSchema, templateToBasis } from './contract/template.ts'; // biome-ignore format: one module
export { joinSettings, listTemplateSources, nameCurrency, templateToEntries } from './contract/template-entries.ts';
export { type TakeoffView, viewSchema } from './contract/views.ts';
export {
  type CutBar,
  type CutPlan,
  type CutTerms,
  cutBars,
  type NeededPiece,
  type StockLength,
} from './cutting/cut-bars.ts';
export { BARE_ELEMENT } from './elements/bare-element.ts';
export { isClassOrSubtype, listProductClasses, properClassName } from './elements/class-hierarchy.ts';
export { classWord, findClassByWord, sayClass } from './elements/class-word.ts';
export {
  buildTextColumn,
  buildTextListColumn,
  readText,
  readTextList,
  type TextColumn,
  type TextListColumn,
  TextPool,
} from './elements/columns.ts';
export { CORRECTED_SET, type CorrectedFacts, type Correction, correctFacts, FACT_FIELDS, type FactField, listCorrections, readFact } from './elements/corrected-facts.ts'; // biome-ignore format: one module
export { DECIDED_PARTS, type DecidedPart, listDecidedParts, namePart } from './elements/decided-parts.ts';
export { type EffectiveColumn, findQuantityOrigin, listEffectiveQuantities } from './elements/effective-quantities.ts';
export type { ChosenAreas, LimitParts, PartShares, TableParts } from './elements/element-parts.ts';
export {
  buildElementTable,
  type ElementTable,
  findRow,
  listKeysByIdentity,
  type PropertyColumn,
  type QuantityColumn,
  readElement,
  readExactness,
  readProperties,
  readQuantities,
} from './elements/element-table.ts';
export { assignElementKeys, type KeyAssignment, listFileIdentities, type PastKeys, readSaidIdentities, type SaidIdentities, sayIdentities } from './elements/identity.ts'; // biome-ignore format: one module
export { type Basis, type Box, type Exactness, FACE_LOOKS, type Face, type FaceLook, FINISH_SURFACES, type FinishSurface, findQuantity, type GfaMethod, type Layer, type ModelElement, type ModelStorey, type Opening, type PropertyValue, type Quantity, type QuantityChoice, type QuantityMethod, type RoomFinishes, SOURCE_KINDS, type SourceKind, type SurfaceSketch, type WallFinish, weakerExactness } from './elements/model-element.ts'; // biome-ignore format: one module
export type { GivenFigure } from './elements/project-layer.ts';
export {
  ADDED_SET,
  applyProjectLayer,
  type ProjectLayer,
  type ProjectMaterial,
} from './elements/project-layer.ts';
export { readGlobalId, relateElements } from './elements/relations.ts';
export type {
  PlanOpening,
  RoofSlope,
  RoomPlan,
  RowAxis,
  SharedBody,
  SiteData,
  WallJunction,
} from './elements/site-data.ts';
export {
  type FaceTable,
  type LayerTable,
  type OpeningTable,
  readFaces,
  readLayers,
  readOpenings,
} from './elements/sub-tables.ts';
export { decodeElementTable, encodeElementTable } from './elements/table-codec.ts';
export { type CompiledFormula, compileFormula, runFormula, suggestName } from './formulas/compile-formula.ts';
export { showFormulaWithFigures } from './formulas/explain-formula.ts';
export type { FormulaFunction } from './formulas/formula-function.ts';
export { type CompiledNode, describeFormulaType, type Evaluator, type FormulaName, FormulaNames, type FormulaRun, type FormulaType, NUMBER, TEXT, TRUTH } from './formulas/formula-types.ts'; // biome-ignore format: one module
export {
  FORMULA_FUNCTIONS,
  findFormulaFunction,
  raiseDimension,
} from './formulas/function-table.ts';
export { readTokens, type Token, type TokenKind } from './formulas/lexer.ts';
export { parseFormula } from './formulas/parser.ts';
export { type BinaryOperator, FORMULA_LIMITS, type FormulaNode } from './formulas/syntax.ts';
export { clipMesh, type HalfSpace } from './geometry/clip-mesh.ts';
export { type FaceDirection, type Facet, listFaceDirections, listFacets } from './geometry/facets.ts';
export { arcSegment, type FormedSolid, formCone, formRevolved, formSphere, formSweptDisk, formSweptProfile, moveFormed, type PathSegment, roundPath, straightSegment } from './geometry/formed-solid.ts'; // biome-ignore format: one module
export { LineIndex } from './geometry/line-index.ts';
export { joinMeshes, meshPolygons, meshSweptSolid, type SpacePolygon } from './geometry/mesh-solid.ts';
export { type Deduction, deductOpenings, measureOpeningSize } from './geometry/opening-deduction.ts';
export { doPolygonsCross, isPointInPolygon, isPolygonInside, measurePerimeterM, measurePolygonAreaM2, measureSignedAreaM2, type Outline, type OutlineVertex, outlineToPolygon, polygonToOutline, type RoundCorner, roundCorners } from './geometry/outline.ts'; // biome-ignore format: one module
export { measureOwnRectangle, type OwnRectangle } from './geometry/own-axes.ts';
export {
  type ChunkElement,
  decodePictureChunk,
  encodePictureChunk,
  joinShape,
  type PictureChunk,
} from './geometry/picture-chunk.ts';
export { listPictureEdges, type PictureEdges } from './geometry/picture-edges.ts';
export { listPlaneOutlines, type PlaneOutline } from './geometry/plane-outlines.ts';
export { uniteFigures } from './geometry/polygon-union.ts';
export {
  measureProfile,
  type Profile,
  type ProfileMeasures,
  profileToOutlines,
  profileToPolygon,
} from './geometry/profile.ts';
export { drawCSection, drawISection, drawLSection, drawTSection, drawUSection, drawZSection, type Flange } from './geometry/sections.ts'; // biome-ignore format: one module
export { type CutBody, measureCommonVolume, measureSharedVolume, type SharedVolume } from './geometry/shared-volume.ts';
export { type Slice, sliceMesh } from './geometry/slice-mesh.ts';
export { measureJoinedPerimeterM, splitPolygon } from './geometry/split-polygon.ts';
export { findStrip, type Strip } from './geometry/strip.ts';
export { SurfaceSum } from './geometry/surface-sketch.ts';
export {
  asAlignedBox,
  boundSweptSolid,
  listSweptPoints,
  measureSweptSolid,
  type SweptMeasures,
  type SweptSolid,
  sweptDirection,
} from './geometry/swept-solid.ts';
export { CIRCLE_SEGMENTS, TOLERANCE } from './geometry/tolerances.ts';
export { listPieces, type MeshMeasures, measureMesh, orientMesh, type TriangleMesh } from './geometry/triangle-mesh.ts';
export { type Figure, measureSharedAreaM2, measureUnionAreaM2 } from './geometry/union-area.ts';
export { areaVector, boundBox, boundPoints, cross, dot, frameToMatrix, IDENTITY, invertRigid, lengthOf, type Matrix, multiplyMatrices, normalize, subtract, transformDirection, transformPoint, type Vector2, type Vector3 } from './geometry/vector.ts'; // biome-ignore format: one module
export { ALLOWANCE_DRIVERS, ALLOWANCE_MEASURES, type Allowance, type AllowanceMeasure } from './lists/allowance.ts';
export { toListElements } from './lists/list-elements.ts';
export {
  findListProfile,
  guessListProfile,
  LIST_COLUMNS,
  LIST_KEYS,
  type ListColumn,
  type ListKey,
  type ListProfile,
  makeListProfile,
} from './lists/list-profile.ts';
export { priceAllowances } from './lists/price-allowances.ts';
export { type PricedByThemselves, priceListed } from './lists/price-listed.ts';
export { type ListLine, type ReadList, type RefusedRow, readList } from './lists/read-list.ts';
export type { ExpectedSections } from './mapping/expected-sections.ts';
export { explainDecisions } from './mapping/explain-decisions.ts';
export { type Caught, caughtBy } from './mapping/list-candidates.ts';
export { countRows, type MappedRows, type Mapping, MappingMemory, mapElements } from './mapping/map-elements.ts';
export {
  type CodeTarget,
  type MatchedCode,
  matchCodes,
  type NamedBook,
  type NamedThing,
} from './mapping/match-codes.ts';
export {
  PracticeIndex,
  type PracticeRow,
  type ProjectPractice,
  type Suggestion,
  sayAlike,
} from './mapping/practice.ts';
export { type Decider, PRECEDENCE } from './mapping/precedence.ts';
export { ALSO_FOR, type AlsoFor, type ItemSwap, type Pin, type PricedWith, type PricingRule, type WorkSection } from './mapping/pricing-rule.ts'; // biome-ignore format: one module
export { findOption, makeOption, mergeOption, rebaseOption, removeOption } from './options/option-changes.ts';
export { type Difference, differenceId, fromDifferences, isOptional, listDifferences, type OptionBody, type OptionConflict, overlayOption, toDifferences } from './options/option-overlay.ts'; // biome-ignore format: one module
export { projectOf, readWorkspaceId, type Workspace, workspaceId } from './options/workspace-id.ts';
export { ENGINE_VERSION, type PricingBasis, runPipeline, type SourceTable, toMoveState } from './pipeline.ts';
export { PipelineMemory } from './pipeline-memory.ts';
export { type CheckedMark, type HeldMark, holdMarks, listUnchecked, type MarkedThing, markId, signMarked, testChecked, type UncheckedLine } from './plan/checked-marks.ts'; // biome-ignore format: one module
export { cutItem, type ItemCut, listCutItems } from './plan/cut-item.ts';
export {
  type ExplainedElement,
  type ExplainedLine,
  type ExplainedQuantity,
  explainElement,
  findPlanElement,
} from './plan/explain-element.ts';
export { gatherPractice } from './plan/gather-practice.ts';
export {
  GROUP_FIELDS,
  type GroupField,
  type GroupNames,
  nameGroup,
  OWN_SECTIONS,
  readGroupField,
} from './plan/group-labels.ts';
export { type BehindElement, countPlanLines, groupPlan, isLineUnknown, listBehind, listGroupElements, type PlanGroup, type PlanLine, type PlanScope } from './plan/group-plan.ts'; // biome-ignore format: one module
export { type HeldBand, holdBands } from './plan/hold-bands.ts';
export {
  type HeldTarget,
  holdTargets,
  TARGET_PER,
  type Target,
  type TargetPer,
  targetId,
} from './plan/hold-targets.ts';
export { type ElementKind, joinQuantities, KIND_GROUPINGS, type KindGrouping, type KindQuantity, type KindWithin, listElementKinds, mainQuantityOf, type StateOf, stemOfName, sumQuantities } from './plan/list-element-kinds.ts'; // biome-ignore format: one module
export { type KindPart, listKindParts, scopeOfPart } from './plan/list-kind-parts.ts';
export { type BuildingMeasure, countUnits, measureBuilding } from './plan/measure-building.ts';
export {
  COMPLETENESS_MEASURES,
  type CompletenessMeasure,
  type CompletenessRow,
  measureCompleteness,
  sharePriced,
} from './plan/measure-completeness.ts';
export {
  INTENSITY_UNITS,
  type IntensityStep,
  type IntensityUnit,
  measureIntensity,
  stepQuantiles,
} from './plan/measure-intensity.ts';
export { describeBase } from './plan/percent-base.ts';
export {
  COMPLETENESS_STATES,
  type CompletenessState,
  countNothing,
  joinPlan,
  judgeCompleteness,
  type Plan,
  type PlanPart,
  sumElementAmounts,
} from './plan/plan.ts';
export { PLAN_ROWS, type PlanRows } from './plan/plan-fields.ts';
export { decodePlan, encodePlan, type StoredPlan, toStoredPlan } from './plan/plan-file.ts';
export { visitPlanCells } from './plan/plan-rows.ts';
export { groupPurchases, PURCHASE_COLUMN, PURCHASE_GROUPS, type PurchaseGroup } from './plan/purchase-table.ts';
export { findShortfall, listKinds, nameTotal, type Shortfall } from './plan/shortfall.ts';
export { type ToldDecision, type ToldSection, tellDecisions } from './plan/tell-decisions.ts';
export {
  AMOUNT_SCALE,
  type Amount,
  amountToMinor,
  apportion,
  currencyToMinorDigits,
  minorToDecimal,
  minorToMajor,
  quantizeAmount,
} from './pricing/money.ts';
export { moveItemByPercent, moveRateByPercent } from './pricing/move-rate.ts';
export { addWaste, type PricedBlock, type PricedLine, priceLine, rateAt } from './pricing/price-lines.ts';
export { type Purchase, sumPurchases } from './pricing/purchases.ts';
export { type TriedLine, tryAssembly } from './pricing/try-assembly.ts';
export { type MeshNeed, mergePrisms } from './quantities/body-shape.ts';
export {
  type ChosenFace,
  describeFace,
  measureChosenFacesM2,
  middleOf,
} from './quantities/chosen-faces.ts';
export { measureCoveredSidesM2 } from './quantities/covered-sides.ts';
export { buildDrawnRooms, type DrawnRoom, listRoomOutlines, ringToPoints } from './quantities/drawn-rooms.ts';
export {
  boundBody,
  boundMesh,
  type ElementBody,
  type ElementMeshes,
  type Extents,
  isCurved,
  type Measured,
  meshOwnBody,
  type OpeningBody,
} from './quantities/element-body.ts';
export {
  type FaceAreas,
  type FaceDirections,
  measureMeshFaces,
  measureSweptFaces,
  nameFace,
} from './quantities/face-areas.ts';
export {
  findJunctionsAmong,
  findJunctionsOf,
  type JunctionsAmong,
  toWallAxis,
} from './quantities/junctions-among.ts';
export { type LayerDefinition, measureLayers, type Weighing, weighElement } from './quantities/layer-quantities.ts';
export { type Limit, type LimitLevel, placeLimit, readLevelM } from './quantities/limit.ts';
export { findLimit, LIMITABLE_QUANTITIES, shareWithin } from './quantities/limited-quantity.ts';
export { AlikeMeasurer } from './quantities/measure-alike.ts';
export {
  classToMeasureGroup,
  type MeasureInput,
  type MeasureOutcome,
  measureElement,
} from './quantities/measure-element.ts';
export { type MeshOfRow, measureLimit } from './quantities/measure-parts.ts';
export { isDrawnAsPlate } from './quantities/measure-slab.ts';
export type { WallSides } from './quantities/measure-wall.ts';
export { moveMesh } from './quantities/own-frame.ts';
export {
  DESCRIBING_QUANTITIES,
  GROUP_QUANTITIES,
  type MeasureGroup,
  QUANTITY_DEFINITIONS,
  type QuantityDefinition,
} from './quantities/quantity-names.ts';
export { QUANTITY_SETS, statedToMeasured } from './quantities/quantity-sets.ts';
export { measurePitchDegrees, measureRoof, type RoofMeasures, type RoofPlane } from './quantities/roof-edges.ts';
export {
  deductRoomOpenings,
  OpeningIndex,
  type RoomDeduction,
  type RoomShape,
  readFinishName,
  type WallOpening,
} from './quantities/room.ts';
export {
  listRoomFinishes,
  listRoomWalls,
  type RoomFinish,
  sumFinishes,
} from './quantities/room-finishes.ts';
export { measureFinishM, moveOutline, type RoomStretch, RoomWalls } from './quantities/room-walls.ts';
export { isSaneBox } from './quantities/sane-box.ts';
export { placesOfCount, type ShownQuantity, showQuantity } from './quantities/show-quantity.ts';
export { sumFaces } from './quantities/sum-faces.ts';
export {
  countJunctions,
  findJunctions,
  type Junction,
  type JunctionCounts,
  type JunctionKind,
  type WallAxis,
} from './quantities/wall-junctions.ts';
export { type AssemblyCheck, checkAssembly, type LineCheck } from './recipes/check-assembly.ts';
export { compileSetting, nameParameters } from './recipes/compile-parameters.ts';
export { compileRecipe } from './recipes/compile-recipe.ts';
export { findCodeUses, findScaleUses, findValueUses, type Use } from './recipes/find-uses.ts';
export { compileRate, factorOf, type ItemRate, listRateNames, type RateTerms } from './recipes/item-rate.ts';
export { PART_NAMES, type PartKind } from './recipes/part-names.ts';
export {
  type Book,
  type BookContents,
  type BrokenStep,
  buildBook,
  listQuantityNames,
  listRecipeLeaves,
  type RecipeAssembly,
  type RecipeItem,
  type RecipeStep,
  recipeSignature,
} from './recipes/recipe.ts';
export { LINE_COLUMNS, lineToCells, planToTable, type ReportTable } from './reports/plan-table.ts';
export { listTakeoffFields, type TakeoffField, type TakeoffItem } from './reports/takeoff-fields.ts';
export { TAKEOFF_ROWS, type TakeoffRowKind } from './reports/takeoff-row.ts';
export {
  buildTakeoffTable,
  listTakeoffItems,
  type TakeoffSpec,
  type TakeoffTable,
} from './reports/takeoff-table.ts';
export { appendToList } from './result/append-to-list.ts';
export { failure, type Problem, type Result, type Span, success } from './result/result.ts';
export {
  CONDITION_FIELDS,
  CONDITION_OPERATORS,
  type Condition,
  type ConditionField,
  type ConditionOperator,
  describeCondition,
  type FieldCondition,
  LAYER_FACTS,
  RELATED_FACTS,
} from './scopes/condition.ts';
export {
  evaluateScope,
  evaluateScopeOverParts,
  findPropertyColumns,
  listMaskedRows,
  type RowMask,
} from './scopes/evaluate-scope.ts';
export { forgetResolved, type NamedScope, resolveScope, resolveScopes, usesScope } from './scopes/named-scope.ts';
export { applyQuantityOverrides, type QuantityOverride } from './scopes/quantity-overrides.ts';
export { compileTextMatcher } from './scopes/text-matcher.ts';
export { textPoolOf } from './scopes/text-pool.ts';
export type { TableLine } from './tables/build-table.ts';
export { nameFact, nameQuantity } from './tables/field-catalogue.ts';
export { nameProperty, sayInWords } from './tables/say-in-words.ts';
export type { CellValue } from './tables/table-field.ts';
export type { CubicMetres, Kilograms, Metres, SiUnit, SquareMetres } from './units/branded.ts';
export { ByCode, codeKey, nameKey, writeName } from './units/code-key.ts';
export { BASE_DIMENSIONS, type BaseDimension, DIMENSIONLESS, type Dimension, dimensionToUnitName, fitsDimension, isCountDimension, isDimensionless, isSameDimension, joinDimensions, multiplyDimensions } from './units/dimension.ts'; // biome-ignore format: one module
export { foldText } from './units/fold-text.ts';
export { readLength, showFeetInches } from './units/length-text.ts';
export { readMeasure } from './units/measure-text.ts';
export { siUnitToDimension } from './units/si-units.ts';
export {
  NUMBER_STYLES,
  type NumberStyle,
  readFileNumber,
  readTypedNumber,
  signsOf,
  writeTypedNumber,
} from './units/typed-number.ts';
export { findSimpleUnit, parseUnit, siToUnit, UNIT_SYMBOLS, type Unit, unitToSi } from './units/unit.ts';
