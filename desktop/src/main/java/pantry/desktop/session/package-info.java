/** What is open and going on, for all workplaces: libraries, project, jobs, ledger and scale. Knows no node. */
@NullMarked
package pantry.desktop.session;

import org.jspecify.annotations.NullMarked;
