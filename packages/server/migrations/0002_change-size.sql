ALTER TABLE "change_log" ADD COLUMN "entry_count" integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE "change_log" ADD COLUMN "is_revision" boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE "change_log" ALTER COLUMN "diff" SET STORAGE EXTERNAL;--> statement-breakpoint
UPDATE "change_log" SET
  "entry_count" = jsonb_array_length("diff" -> 'added') + jsonb_array_length("diff" -> 'updated') + jsonb_array_length("diff" -> 'removed'),
  "is_revision" = jsonb_path_exists("diff", '$.added[*] ? (@.kind == "counting")') OR jsonb_path_exists("diff", '$.updated[*] ? (@.kind == "counting")');
