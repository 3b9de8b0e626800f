ALTER TABLE "jobs" ADD COLUMN "attempts" integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE "projects" ADD COLUMN "shortfall" jsonb;--> statement-breakpoint
ALTER TABLE "projects" ADD COLUMN "put_away_at" timestamp with time zone;