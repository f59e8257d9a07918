CREATE TABLE "hand_shapes" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"name" text NOT NULL,
	"angles" jsonb NOT NULL,
	"created_at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "hand_shapes_name_unique" UNIQUE("name")
);--> statement-breakpoint
CREATE TRIGGER "hand_shapes_tell" AFTER INSERT OR UPDATE OR DELETE ON "hand_shapes" FOR EACH ROW EXECUTE FUNCTION "tell_change"('production', 'id');
