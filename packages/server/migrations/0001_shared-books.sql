CREATE TABLE "book_versions" (
	"book_id" text NOT NULL,
	"number" integer NOT NULL,
	"hash" text NOT NULL,
	"entries" jsonb NOT NULL,
	"note" text NOT NULL,
	"author" text NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "book_versions_book_id_number_pk" PRIMARY KEY("book_id","number")
);
--> statement-breakpoint
CREATE TABLE "books" (
	"id" text PRIMARY KEY NOT NULL,
	"name" text NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL
);
--> statement-breakpoint
ALTER TABLE "book_versions" ADD CONSTRAINT "book_versions_book_id_books_id_fk" FOREIGN KEY ("book_id") REFERENCES "public"."books"("id") ON DELETE cascade ON UPDATE no action;