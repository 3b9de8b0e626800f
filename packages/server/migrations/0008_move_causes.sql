-- What whole packs leave over is told as rounding.
UPDATE "moves" SET "move" = jsonb_set("move" #- '{causes,packs}', '{causes,rounding}', "move" #> '{causes,packs}') WHERE "move" #> '{causes,packs}' IS NOT NULL;
