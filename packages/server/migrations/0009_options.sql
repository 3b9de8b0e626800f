ALTER TABLE "change_log" ADD COLUMN "option" text;--> statement-breakpoint
ALTER TABLE "jobs" ADD COLUMN "option" text;--> statement-breakpoint
ALTER TABLE "moves" ADD COLUMN "option" text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE "moves" DROP CONSTRAINT "moves_project_id_seq_pk";--> statement-breakpoint
ALTER TABLE "moves" ADD CONSTRAINT "moves_project_id_option_seq_pk" PRIMARY KEY("project_id","option","seq");
