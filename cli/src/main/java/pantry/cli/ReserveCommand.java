package pantry.cli;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import pantry.library.Asset;
import pantry.library.Reservation;
import pantry.workbench.Workbench;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

@Command(
        name = "reserve",
        description = "Hold assets for editing, so that nobody else publishes them; without one, tell who holds what.")
final class ReserveCommand extends LibraryCommand<ReserveCommand.Result> {
    @Parameters(arity = "0..*", paramLabel = "ASSET", description = "An asset's id or Shelf/Name.")
    private List<String> what = new ArrayList<>();

    @Option(
            names = "--take-over",
            paramLabel = "WHY",
            description = "Also where somebody else holds it, who has forgotten it; the journal keeps why.")
    private Optional<String> why = Optional.empty();

    record Held(String asset, String name, String who, String host, String since) {}

    record Result(List<Held> reserved) {}

    ReserveCommand(Workbench workbench, Output output) {
        super(workbench, output);
    }

    @Override
    Result work() {
        List<Held> held = new ArrayList<>();
        if (what.isEmpty()) {
            for (Reservation each : library().reservations().all()) {
                String name = library().byId(each.asset()).map(Asset::address).orElse("no longer on a shelf");
                held.add(held(each, name));
            }
            return new Result(held);
        }
        for (Asset asset : assets(what)) {
            Reservation mine = why.isPresent()
                    ? library().reservations().takeOver(asset, why.get())
                    : library().reservations().reserve(asset);
            held.add(held(mine, asset.address()));
        }
        return new Result(held);
    }

    private static Held held(Reservation each, String name) {
        return new Held(
                each.asset(), name, each.who(), each.host(), each.since().toString());
    }

    @Override
    void tell(Result result) {
        for (Held each : result.reserved()) {
            output.line("%-40s %s since %s on %s", each.name(), each.who(), each.since(), each.host());
        }
        if (result.reserved().isEmpty()) {
            output.line("nothing is reserved");
        }
    }
}
