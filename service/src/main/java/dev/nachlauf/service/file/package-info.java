/**
 * The file store: what was read is kept under the hash of its content, so that a run can be repeated and resumed byte
 * for byte. {@link dev.nachlauf.service.file.FileStore} is the facade. A name that came with a file is shown, never used
 * as a path.
 */
@NullMarked
package dev.nachlauf.service.file;

import org.jspecify.annotations.NullMarked;
