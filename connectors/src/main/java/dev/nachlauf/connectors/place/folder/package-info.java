/**
 * A folder of the service's machine as a place of files. Start at {@link
 * dev.nachlauf.connectors.place.folder.FolderType}. Patterns name files in this folder only: no path leads out of it,
 * and links that do are not followed.
 */
@NullMarked
package dev.nachlauf.connectors.place.folder;

import org.jspecify.annotations.NullMarked;
