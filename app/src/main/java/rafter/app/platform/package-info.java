/** What every feature stands on: time, files, secrets, live updates, messages to people who typed something wrong. */
@NullMarked
package rafter.app.platform;

import org.jspecify.annotations.NullMarked;
