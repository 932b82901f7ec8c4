CREATE TABLE `ebook_changes` (
	`ebook` text NOT NULL,
	`revision` integer NOT NULL,
	`client` text NOT NULL,
	`actor` text DEFAULT 'author' NOT NULL,
	`request` text DEFAULT '' NOT NULL,
	`changes` text NOT NULL,
	`label` text NOT NULL,
	`at` integer NOT NULL,
	`undoes` integer,
	`redoes` integer,
	`undone` integer DEFAULT 0 NOT NULL,
	PRIMARY KEY(`ebook`, `revision`)
);
--> statement-breakpoint
CREATE TABLE `ebook_texts` (
	`ebook` text NOT NULL,
	`path` text NOT NULL,
	`content` text NOT NULL,
	PRIMARY KEY(`ebook`, `path`)
);
--> statement-breakpoint
CREATE TABLE `ebooks` (
	`id` text PRIMARY KEY NOT NULL,
	`name` text NOT NULL,
	`sha256` text NOT NULL,
	`parts` text NOT NULL,
	`revision` integer DEFAULT 0 NOT NULL,
	`created_at` integer NOT NULL,
	`changed_at` integer NOT NULL,
	`deleted_at` integer
);
--> statement-breakpoint
CREATE TRIGGER `pulse_ebooks_new` AFTER INSERT ON `ebooks` BEGIN
	INSERT INTO `pulses` VALUES (NEW.`id`, (SELECT coalesce(max(`at`), 0) + 1 FROM `pulses`))
	ON CONFLICT (`title`) DO UPDATE SET `at` = excluded.`at`;
END;
--> statement-breakpoint
CREATE TRIGGER `pulse_ebooks` AFTER UPDATE ON `ebooks` BEGIN
	INSERT INTO `pulses` VALUES (NEW.`id`, (SELECT coalesce(max(`at`), 0) + 1 FROM `pulses`))
	ON CONFLICT (`title`) DO UPDATE SET `at` = excluded.`at`;
END;
