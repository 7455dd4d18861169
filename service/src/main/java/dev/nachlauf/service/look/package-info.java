/**
 * Looks: whatever reads a source or asks a system so that a person can see something, and writes nothing. {@link
 * dev.nachlauf.service.look.Looks} carries them out, a few at a time, on threads of their own, so that a slow system or a
 * large file keeps nobody else waiting. A call that asks for a look waits a moment for it; where it takes longer, the
 * answer names the look, which can be followed, stopped, and asked for its result until that expires.
 */
@NullMarked
package dev.nachlauf.service.look;

import org.jspecify.annotations.NullMarked;
