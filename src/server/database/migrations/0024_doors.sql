CREATE TABLE "role" (
	"code" text PRIMARY KEY NOT NULL,
	"name" text NOT NULL,
	"permissions" jsonb NOT NULL,
	"who" jsonb,
	"what" jsonb,
	"version" integer NOT NULL
);
--> statement-breakpoint
CREATE TABLE "staff" (
	"id" text PRIMARY KEY NOT NULL,
	"name" text NOT NULL,
	"email" text NOT NULL,
	"email_verified" boolean DEFAULT false NOT NULL,
	"image" text,
	"created_at" timestamp with time zone NOT NULL,
	"updated_at" timestamp with time zone NOT NULL,
	"two_factor_enabled" boolean DEFAULT false,
	"role" text NOT NULL,
	"who" jsonb,
	"what" jsonb,
	"left_at" timestamp with time zone,
	"version" integer DEFAULT 0 NOT NULL,
	CONSTRAINT "staff_email_unique" UNIQUE("email")
);
--> statement-breakpoint
CREATE TABLE "staff_credential" (
	"id" text PRIMARY KEY NOT NULL,
	"staff_id" text NOT NULL,
	"account_id" text NOT NULL,
	"provider_id" text NOT NULL,
	"password" text,
	"access_token" text,
	"refresh_token" text,
	"id_token" text,
	"access_token_expires_at" timestamp with time zone,
	"refresh_token_expires_at" timestamp with time zone,
	"scope" text,
	"created_at" timestamp with time zone NOT NULL,
	"updated_at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "staff_session" (
	"id" text PRIMARY KEY NOT NULL,
	"token" text NOT NULL,
	"staff_id" text NOT NULL,
	"expires_at" timestamp with time zone NOT NULL,
	"ip_address" text,
	"user_agent" text,
	"created_at" timestamp with time zone NOT NULL,
	"updated_at" timestamp with time zone NOT NULL,
	CONSTRAINT "staff_session_token_unique" UNIQUE("token")
);
--> statement-breakpoint
CREATE TABLE "staff_two_factor" (
	"id" text PRIMARY KEY NOT NULL,
	"staff_id" text NOT NULL,
	"secret" text NOT NULL,
	"backup_codes" text NOT NULL,
	"verified" boolean DEFAULT true,
	"failed_verification_count" integer DEFAULT 0,
	"locked_until" timestamp with time zone
);
--> statement-breakpoint
CREATE TABLE "staff_verification" (
	"id" text PRIMARY KEY NOT NULL,
	"identifier" text NOT NULL,
	"value" text NOT NULL,
	"expires_at" timestamp with time zone NOT NULL,
	"created_at" timestamp with time zone NOT NULL,
	"updated_at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "api_key" (
	"id" text PRIMARY KEY NOT NULL,
	"name" text NOT NULL,
	"start" text NOT NULL,
	"digest" text NOT NULL,
	"scopes" jsonb NOT NULL,
	"per_minute" integer NOT NULL,
	"made_by" text NOT NULL,
	"made_at" timestamp with time zone NOT NULL,
	"expires_at" timestamp with time zone,
	"revoked_at" timestamp with time zone,
	"last_used_at" timestamp with time zone,
	"minute_at" timestamp with time zone,
	"used_in_minute" integer DEFAULT 0 NOT NULL,
	CONSTRAINT "api_key_digest_unique" UNIQUE("digest")
);
--> statement-breakpoint
CREATE TABLE "audit_event" (
	"id" bigserial PRIMARY KEY NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"kind" text NOT NULL,
	"who" text NOT NULL,
	"about" text NOT NULL,
	"detail" text NOT NULL,
	"address" text NOT NULL
);
--> statement-breakpoint
CREATE TABLE "buyer_link" (
	"id" text PRIMARY KEY NOT NULL,
	"email" text NOT NULL,
	"back" text NOT NULL,
	"expires_at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "buyer_password" (
	"email" text PRIMARY KEY NOT NULL,
	"digest" text NOT NULL,
	"at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "door_try" (
	"key" text PRIMARY KEY NOT NULL,
	"count" integer NOT NULL,
	"since" timestamp with time zone NOT NULL
);
--> statement-breakpoint
CREATE TABLE "secret" (
	"name" text PRIMARY KEY NOT NULL,
	"value" text NOT NULL,
	"at" timestamp with time zone NOT NULL
);
--> statement-breakpoint
ALTER TABLE "shop_session" ADD COLUMN "looker" text;--> statement-breakpoint
ALTER TABLE "staff_credential" ADD CONSTRAINT "staff_credential_staff_id_staff_id_fk" FOREIGN KEY ("staff_id") REFERENCES "public"."staff"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "staff_session" ADD CONSTRAINT "staff_session_staff_id_staff_id_fk" FOREIGN KEY ("staff_id") REFERENCES "public"."staff"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "staff_two_factor" ADD CONSTRAINT "staff_two_factor_staff_id_staff_id_fk" FOREIGN KEY ("staff_id") REFERENCES "public"."staff"("id") ON DELETE cascade ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "staff_credential_staff" ON "staff_credential" USING btree ("staff_id");--> statement-breakpoint
CREATE INDEX "staff_session_staff" ON "staff_session" USING btree ("staff_id");--> statement-breakpoint
CREATE INDEX "staff_two_factor_staff" ON "staff_two_factor" USING btree ("staff_id");--> statement-breakpoint
CREATE INDEX "staff_verification_identifier" ON "staff_verification" USING btree ("identifier");--> statement-breakpoint
CREATE INDEX "audit_event_at" ON "audit_event" USING btree ("at");