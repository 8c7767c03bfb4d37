/** What readers and writers of all formats share: kinds of files, what was read, what goes along, what is left out. */
@NullMarked
package pantry.exchange.format;

import org.jspecify.annotations.NullMarked;
