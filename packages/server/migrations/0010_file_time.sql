ALTER TABLE "revisions" ADD COLUMN "file_time" text;
