CREATE TABLE "promotion_use" (
	"order_number" integer NOT NULL,
	"promotion" text NOT NULL,
	"account" text,
	"visitor" text NOT NULL,
	"at" timestamp with time zone NOT NULL,
	"uses" integer NOT NULL,
	CONSTRAINT "promotion_use_order_number_promotion_pk" PRIMARY KEY("order_number","promotion")
);
--> statement-breakpoint
ALTER TABLE "cart" ADD COLUMN "codes" jsonb DEFAULT '[]'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "cart" ADD COLUMN "choices" jsonb DEFAULT '{}'::jsonb NOT NULL;--> statement-breakpoint
ALTER TABLE "cart" ADD COLUMN "payment" text;--> statement-breakpoint
ALTER TABLE "cart" ADD COLUMN "wrong_codes" integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE "cart" ADD COLUMN "wrong_since" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "promotion_use" ADD CONSTRAINT "promotion_use_order_number_shop_order_number_fk" FOREIGN KEY ("order_number") REFERENCES "public"."shop_order"("number") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "promotion_use_promotion" ON "promotion_use" USING btree ("promotion");