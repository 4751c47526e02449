CREATE TABLE "proof_run" (
	"proof" text NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"state" text NOT NULL,
	"checked" integer NOT NULL,
	"held" integer NOT NULL,
	CONSTRAINT "proof_run_proof_at_pk" PRIMARY KEY("proof","at")
);
--> statement-breakpoint
CREATE TABLE "proof" (
	"id" text PRIMARY KEY NOT NULL,
	"code" text NOT NULL,
	"name" text NOT NULL,
	"state" text NOT NULL,
	"status" text NOT NULL,
	"rank" integer NOT NULL,
	"audience" jsonb NOT NULL,
	"scope" jsonb NOT NULL,
	"place" jsonb NOT NULL,
	"schedule" jsonb NOT NULL,
	"revision" integer NOT NULL,
	"claim" text NOT NULL,
	"value" numeric,
	"currency" text,
	"quantity" numeric NOT NULL,
	"is_blocking" boolean NOT NULL,
	"reason" text NOT NULL
);
--> statement-breakpoint
CREATE UNIQUE INDEX "proof_code" ON "proof" USING btree (lower("code"));