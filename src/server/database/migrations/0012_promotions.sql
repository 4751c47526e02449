CREATE TABLE "promotion" (
	"id" text PRIMARY KEY NOT NULL,
	"code" text NOT NULL,
	"name" text NOT NULL,
	"state" text NOT NULL,
	"status" text NOT NULL,
	"value" jsonb NOT NULL,
	"conditions" jsonb NOT NULL,
	"combines" text NOT NULL,
	"uses" jsonb NOT NULL,
	"is_offer" boolean NOT NULL,
	"is_announced" boolean NOT NULL,
	"rounding" jsonb,
	"rank" integer NOT NULL,
	"audience" jsonb NOT NULL,
	"scope" jsonb NOT NULL,
	"place" jsonb NOT NULL,
	"schedule" jsonb NOT NULL,
	"revision" integer NOT NULL
);
--> statement-breakpoint
CREATE UNIQUE INDEX "promotion_code" ON "promotion" USING btree (lower("code"));