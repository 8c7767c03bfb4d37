package pantry.cli;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import pantry.base.math.Vec3;
import pantry.library.Asset;
import pantry.model.Colour;
import pantry.scene.OverrideSentence;
import pantry.scene.PlacementParts;
import pantry.scene.Scene;
import pantry.usd.SdfPath;
import pantry.workbench.Workbench;
import picocli.CommandLine.ArgGroup;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** Says of a part of a placement otherwise than its asset does. */
@Command(
        name = "override",
        description = {
            "Change a part inside of a placement without changing its asset: where it stands, whether it is seen, its"
                    + " material, variant or colour.",
            "Without options, tell what the scene says otherwise of it, or of all parts of a placement."
        })
final class OverrideCommand extends ArrangeCommand {
    @Parameters(index = "1", paramLabel = "PATH", description = "A part of a placement, or a placement.")
    private String what = "";

    @Option(names = "--move", paramLabel = "X,Y,Z", description = "Move it by that in the world, metres.")
    private Optional<String> move = Optional.empty();

    @Option(names = "--turn", paramLabel = "X,Y,Z", description = "Turn it by that, x first, degrees.")
    private Optional<String> turn = Optional.empty();

    @Option(names = "--scale", paramLabel = "S", description = "Size it by one factor, or by three as X,Y,Z.")
    private Optional<String> scale = Optional.empty();

    @ArgGroup(exclusive = true)
    private Seen seen = new Seen();

    /** Whether a part is seen. */
    static final class Seen {
        @Option(names = "--hide", description = "Do not show it.")
        private boolean hide;

        @Option(names = "--show", description = "Show it though the asset hides it.")
        private boolean show;
    }

    @Option(
            names = "--material",
            paramLabel = "M",
            description = "Give it a material of the library, as an asset of the --library.")
    private Optional<String> material = Optional.empty();

    @Option(names = "--variant", paramLabel = "SET=V", description = "Choose a variant; may be given again.")
    private List<String> variants = new ArrayList<>();

    @Option(
            names = "--colour",
            paramLabel = "NAME=RRGGBB",
            description = "Give a material of that name in the placement another colour, as displayed.")
    private List<String> colours = new ArrayList<>();

    @Option(
            names = "--copy-to",
            paramLabel = "OBJECT",
            description = "Say the same of this placement's part of the same name; may be given again.")
    private List<String> others = new ArrayList<>();

    @Option(names = "--drop", description = "Let go of all that is said of it, first of all.")
    private boolean drop;

    OverrideCommand(Workbench workbench, Output output) {
        super(workbench, output);
    }

    @Override
    Done change(Scene scene) {
        SdfPath path = path(scene, what);
        PlacementParts parts = scene.parts();
        Optional<SdfPath> placement = parts.placementOf(path);
        SdfPath whole = placement.orElse(path);
        List<String> told = new ArrayList<>();
        if (drop) {
            parts.drop(placement.isPresent() ? List.of(path) : said(scene, whole));
        }
        if (move.isPresent() || turn.isPresent() || scale.isPresent()) {
            parts.adjust(
                    List.of(path),
                    move.map(text -> triple("--move", text)).orElse(Vec3.ZERO),
                    turn.map(text -> triple("--turn", text)).orElse(Vec3.ZERO),
                    scale.map(text -> factors("--scale", text)).orElse(Vec3.ONE));
        }
        if (seen.hide || seen.show) {
            parts.show(List.of(path), seen.show);
        }
        variants.forEach(each -> {
            String[] pair = pair("--variant", "SET=V, such as paint=red", each);
            parts.choose(path, pair[0], pair[1]);
        });
        material.ifPresent(named -> {
            Asset asset = asset(named);
            parts.coat(path, asset);
        });
        colours.forEach(each -> {
            String[] pair = pair("--colour", "NAME=RRGGBB, such as Paint=3C6491", each);
            if (!pair[1].matches("[0-9A-Fa-f]{6}")) {
                throw wrongCall("--colour ends in six hexadecimal digits, such as Paint=3C6491.");
            }
            parts.colour(List.of(whole), pair[0], Colour.ofDisplay(Integer.parseInt(pair[1], 16)));
        });
        if (!others.isEmpty()) {
            parts.copyTo(path, paths(scene, others))
                    .forEach(without -> told.add(without + " has no such part; nothing is said of it"));
        }
        scene.overrides().told(whole).stream()
                .filter(each -> each.part().startsWith(path))
                .map(OverrideSentence::sentence)
                .forEach(told::add);
        return new Done(List.of(path), told);
    }

    private static List<SdfPath> said(Scene scene, SdfPath placement) {
        return scene.overrides().told(placement).stream()
                .map(OverrideSentence::part)
                .toList();
    }

    private String[] pair(String option, String form, String text) {
        String[] pair = text.split("=", 2);
        if (pair.length != 2 || pair[0].isBlank() || pair[1].isBlank()) {
            throw wrongCall(option + " is " + form + "; " + text + " is not.");
        }
        return pair;
    }
}
