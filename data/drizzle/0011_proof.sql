CREATE TABLE `comments` (
	`id` text PRIMARY KEY NOT NULL,
	`title` text NOT NULL,
	`edition` text NOT NULL,
	`answers` text DEFAULT '' NOT NULL,
	`words` text NOT NULL,
	`about` text NOT NULL,
	`actor` text DEFAULT 'author' NOT NULL,
	`at` integer NOT NULL,
	`closed_at` integer
);
--> statement-breakpoint
CREATE INDEX `comments_title` ON `comments` (`title`,`at`);--> statement-breakpoint
CREATE TABLE `read_views` (
	`title` text NOT NULL,
	`edition` text NOT NULL,
	`mark` text NOT NULL,
	`actor` text DEFAULT 'author' NOT NULL,
	`at` integer NOT NULL,
	PRIMARY KEY(`title`, `edition`, `mark`)
);
--> statement-breakpoint
CREATE TABLE `sign_offs` (
	`id` text PRIMARY KEY NOT NULL,
	`title` text NOT NULL,
	`edition` text NOT NULL,
	`product` text NOT NULL,
	`sha256` text NOT NULL,
	`revision` integer NOT NULL,
	`engine` integer NOT NULL,
	`views` integer NOT NULL,
	`actor` text DEFAULT 'author' NOT NULL,
	`at` integer NOT NULL,
	`withdrawn_at` integer
);
--> statement-breakpoint
CREATE INDEX `sign_offs_title` ON `sign_offs` (`title`,`at`);--> statement-breakpoint
ALTER TABLE `products` ADD `impression` text DEFAULT '' NOT NULL;
--> statement-breakpoint
CREATE TRIGGER `pulse_read_views_new` AFTER INSERT ON `read_views` BEGIN
	INSERT INTO `pulses` VALUES (NEW.`title`, (SELECT coalesce(max(`at`), 0) + 1 FROM `pulses`))
	ON CONFLICT (`title`) DO UPDATE SET `at` = excluded.`at`;
END;
--> statement-breakpoint
CREATE TRIGGER `pulse_read_views` AFTER UPDATE ON `read_views` BEGIN
	INSERT INTO `pulses` VALUES (NEW.`title`, (SELECT coalesce(max(`at`), 0) + 1 FROM `pulses`))
	ON CONFLICT (`title`) DO UPDATE SET `at` = excluded.`at`;
END;
--> statement-breakpoint
CREATE TRIGGER `pulse_read_views_gone` AFTER DELETE ON `read_views` BEGIN
	INSERT INTO `pulses` VALUES (OLD.`title`, (SELECT coalesce(max(`at`), 0) + 1 FROM `pulses`))
	ON CONFLICT (`title`) DO UPDATE SET `at` = excluded.`at`;
END;
--> statement-breakpoint
CREATE TRIGGER `pulse_comments_new` AFTER INSERT ON `comments` BEGIN
	INSERT INTO `pulses` VALUES (NEW.`title`, (SELECT coalesce(max(`at`), 0) + 1 FROM `pulses`))
	ON CONFLICT (`title`) DO UPDATE SET `at` = excluded.`at`;
END;
--> statement-breakpoint
CREATE TRIGGER `pulse_comments` AFTER UPDATE ON `comments` BEGIN
	INSERT INTO `pulses` VALUES (NEW.`title`, (SELECT coalesce(max(`at`), 0) + 1 FROM `pulses`))
	ON CONFLICT (`title`) DO UPDATE SET `at` = excluded.`at`;
END;
--> statement-breakpoint
CREATE TRIGGER `pulse_comments_gone` AFTER DELETE ON `comments` BEGIN
	INSERT INTO `pulses` VALUES (OLD.`title`, (SELECT coalesce(max(`at`), 0) + 1 FROM `pulses`))
	ON CONFLICT (`title`) DO UPDATE SET `at` = excluded.`at`;
END;
--> statement-breakpoint
CREATE TRIGGER `pulse_sign_offs_new` AFTER INSERT ON `sign_offs` BEGIN
	INSERT INTO `pulses` VALUES (NEW.`title`, (SELECT coalesce(max(`at`), 0) + 1 FROM `pulses`))
	ON CONFLICT (`title`) DO UPDATE SET `at` = excluded.`at`;
END;
--> statement-breakpoint
CREATE TRIGGER `pulse_sign_offs` AFTER UPDATE ON `sign_offs` BEGIN
	INSERT INTO `pulses` VALUES (NEW.`title`, (SELECT coalesce(max(`at`), 0) + 1 FROM `pulses`))
	ON CONFLICT (`title`) DO UPDATE SET `at` = excluded.`at`;
END;
--> statement-breakpoint
CREATE TRIGGER `pulse_sign_offs_gone` AFTER DELETE ON `sign_offs` BEGIN
	INSERT INTO `pulses` VALUES (OLD.`title`, (SELECT coalesce(max(`at`), 0) + 1 FROM `pulses`))
	ON CONFLICT (`title`) DO UPDATE SET `at` = excluded.`at`;
END;
