package pantry.cli;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import pantry.project.ChangePlan;
import pantry.project.Updates;
import pantry.workbench.Workbench;
import picocli.CommandLine.ArgGroup;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** Commands that change the versions of placements over all files of projects. */
abstract class UpdateCommand extends ChangeCommand<ChangeCommand.Result> {
    @Parameters(
            arity = "0..*",
            paramLabel = "ASSET",
            description = "Only placements of these; of all where none is named.")
    private List<String> named = new ArrayList<>();

    @Option(names = "--scene", paramLabel = "F", description = "Only in this file of the projects; may be given again.")
    private List<Path> scenes = new ArrayList<>();

    UpdateCommand(Workbench workbench, Output output) {
        super(workbench, output);
    }

    abstract ChangePlan plan(Updates updates);

    @Override
    Result work() {
        return carryOut(plan(new Updates(reach(), assets(named), scenes)));
    }

    @Command(
            name = "update",
            description = {
                "Bring placements in the files of projects to other versions.",
                "Pinned ones that are behind go to the ready version, unless told otherwise."
            })
    static final class Update extends UpdateCommand {
        @ArgGroup
        private @Nullable Goal goal;

        /** Where placements go. */
        static final class Goal {
            @Option(names = "--to", required = true, paramLabel = "V", description = "Pin all to this version.")
            private Optional<String> version = Optional.empty();

            @Option(names = "--follow", required = true, description = "Let them follow the ready version.")
            private boolean follow;
        }

        Update(Workbench workbench, Output output) {
            super(workbench, output);
        }

        @Override
        ChangePlan plan(Updates updates) {
            if (goal == null) {
                return updates.toReady();
            }
            return goal.version.map(updates::to).orElseGet(updates::follow);
        }
    }

    @Command(
            name = "pin",
            description = "Pin placements that follow to the versions that they show now, for a delivery.")
    static final class Pin extends UpdateCommand {
        Pin(Workbench workbench, Output output) {
            super(workbench, output);
        }

        @Override
        ChangePlan plan(Updates updates) {
            return updates.pin();
        }
    }

    @Command(name = "follow", description = "Let pinned placements follow the ready versions.")
    static final class Follow extends UpdateCommand {
        Follow(Workbench workbench, Output output) {
            super(workbench, output);
        }

        @Override
        ChangePlan plan(Updates updates) {
            return updates.follow();
        }
    }
}
