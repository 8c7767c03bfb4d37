package pantry.cli;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import pantry.base.Names;
import pantry.base.PantryException;
import pantry.intake.LostTextures;
import pantry.library.Asset;
import pantry.scene.ImportSource;
import pantry.scene.Scene;
import pantry.scene.SceneImport;
import pantry.usd.SdfPath;
import pantry.workbench.Workbench;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** Copies things into a scene with all they need: of an asset or a file, or out of another scene. */
abstract class AppendCommand extends SceneCommand<AppendCommand.Result> {
    @Parameters(index = "0", paramLabel = "SCENE", description = "The scene's file.")
    private Path sceneFile = Path.of("");

    @Option(
            names = "--pick",
            paramLabel = "P",
            description = "Only this object or material, by its path in the source.")
    private List<String> picked = List.of();

    @Option(
            names = "--on-conflict",
            paramLabel = "scene|incoming|both",
            description = "What becomes of names that both have: groups, materials, drawers, alternates, settings.")
    private SceneImport.Decision onConflict = SceneImport.Decision.BOTH;

    @Option(names = "--drawer", paramLabel = "D", defaultValue = "", description = "A drawer to put them into.")
    private String drawer = "";

    @Option(names = "--dry-run", description = "Say what would come along, and change nothing.")
    private boolean dryRun;

    @Option(
            names = "--textures",
            paramLabel = "DIR",
            description = "A folder in which missing textures are looked for; may be given again.")
    private List<Path> textures = List.of();

    @Option(names = "--allow-missing-textures", description = "Bring in without textures that are not found.")
    private boolean allowMissing;

    @Mixin
    private Place where = new Place();

    record Need(String path, String kind, String by, String why, long bytes) {}

    record Clash(String what, String name, String incoming, String own, boolean same) {}

    /**
     * @param objects where each came to; what would come, by its path in the source, where nothing is done
     * @param missing textures that are not found
     */
    record Result(
            String scene,
            String anchor,
            List<String> objects,
            List<Need> needs,
            List<Clash> clashes,
            List<String> missing) {}

    AppendCommand(Workbench workbench, Output output) {
        super(workbench, output);
    }

    /** The source that is to be brought in, with the name that it would have. */
    abstract Named source();

    /** A source with a name for what comes of it. */
    record Named(ImportSource source, String name) {}

    @Override
    Result work() {
        Scene scene = workbench.openScene(sceneFile);
        Named named = source();
        ImportSource source = named.source();
        Set<SdfPath> chosen = new LinkedHashSet<>();
        for (String path : picked) {
            if (!SdfPath.isWellFormed(path)) {
                throw wrongCall(path + " is no path of an object, such as /Hut/Door.");
            }
            chosen.add(SdfPath.of(path));
        }
        Set<SdfPath> all = chosen.isEmpty() ? Set.of(source.root()) : chosen;
        List<Need> needs = source.needs(all).stream()
                .map(need -> new Need(
                        need.path().toString(),
                        need.kind().name().toLowerCase(Locale.ROOT),
                        need.by().toString(),
                        need.why(),
                        need.bytes()))
                .toList();
        List<SceneImport.Conflict> clashing = SceneImport.clashes(scene, source, chosen, where.name(named.name()));
        List<Clash> clashes = clashing.stream()
                .map(clash -> new Clash(
                        clash.what().name().toLowerCase(Locale.ROOT),
                        clash.name(),
                        clash.incoming().toString(),
                        clash.own().toString(),
                        clash.same()))
                .toList();
        if (!textures.isEmpty()) {
            source.lookIn(LostTextures.in(textures, output.progress()));
        }
        List<String> missing = source.missing(chosen);
        if (dryRun) {
            List<String> coming = SceneImport.coming(source, chosen).stream()
                    .map(SdfPath::toString)
                    .toList();
            return new Result(scene.file().toString(), "", coming, needs, clashes, missing);
        }
        if (!missing.isEmpty() && !allowMissing) {
            throw new PantryException(
                    source.file(),
                    "lacks " + (missing.size() == 1 ? "a texture" : missing.size() + " textures") + ": "
                            + String.join(", ", missing)
                            + "; name a folder that has it with --textures, or say --allow-missing-textures");
        }
        Map<SceneImport.Conflict, SceneImport.Decision> decisions = new LinkedHashMap<>();
        clashing.forEach(clash -> decisions.put(clash, onConflict));
        SceneImport.Result brought = SceneImport.bring(
                scene,
                source,
                chosen,
                new SceneImport.Options(
                        where.name(named.name()), where.placing(this), where.under(this, scene), decisions, drawer));
        save(scene);
        return new Result(
                scene.file().toString(),
                brought.anchor().toString(),
                brought.copied().values().stream()
                        .map(SdfPath::toString)
                        .sorted()
                        .toList(),
                needs,
                clashes,
                missing);
    }

    @Override
    void tell(Result result) {
        for (Need need : result.needs()) {
            output.line(
                    "along comes %s (%s, %,d bytes): %s of %s",
                    need.path(), need.kind(), need.bytes(), need.why(), need.by());
        }
        result.missing().forEach(texture -> output.line("missing %s", texture));
        if (result.anchor().isEmpty()) {
            result.objects().forEach(object -> output.line("would come %s", object));
        }
        for (Clash clash : result.clashes()) {
            output.line(
                    "the scene has a %s %s already%s",
                    clash.what(), clash.name(), clash.same() ? ", and the same" : "");
        }
        if (!result.anchor().isEmpty()) {
            output.line("%d things hang on %s of %s", result.objects().size(), result.anchor(), result.scene());
        }
    }

    /** Copies an asset, or things of any file. */
    @Command(
            name = "append",
            description = "Copy an asset, or objects and materials of a file, into a scene; nothing refers back.")
    static final class Append extends AppendCommand {
        @Parameters(index = "1", paramLabel = "WHAT", description = "An asset's id or Shelf/Name; or a file.")
        private String what = "";

        Append(Workbench workbench, Output output) {
            super(workbench, output);
        }

        @Override
        Named source() {
            if (library().isPresent() && !Files.exists(Path.of(what))) {
                Asset asset = asset(what);
                Path layer = asset.shown()
                        .map(asset::entryLayer)
                        .orElseThrow(() -> new PantryException(asset.folder(), "has no version yet"));
                return new Named(
                        workbench.source(layer, ImportSource.Links.COPIED, output.progress()),
                        asset.card().name());
            }
            Path file = Path.of(what);
            if (!Files.exists(file)) {
                throw new PantryException(file, "there is no such file; for an asset, say in which --library it is");
            }
            return new Named(
                    workbench.source(file, ImportSource.Links.COPIED, output.progress()),
                    Names.title(Names.stem(file.getFileName().toString())));
        }
    }

    /** Takes another scene in. */
    @Command(name = "merge", description = "Copy another scene, or parts of it, into a scene.")
    static final class Merge extends AppendCommand {
        @Parameters(index = "1", paramLabel = "OTHER", description = "The other scene's file.")
        private Path other = Path.of("");

        @Option(names = "--copy", description = "Copy what placements there show, so that nothing refers anywhere.")
        private boolean copy;

        Merge(Workbench workbench, Output output) {
            super(workbench, output);
        }

        @Override
        Named source() {
            Optional<Path> name = Optional.ofNullable(other.getFileName());
            return new Named(
                    workbench.source(
                            other, copy ? ImportSource.Links.COPIED : ImportSource.Links.KEPT, output.progress()),
                    Names.title(Names.stem(name.map(Path::toString).orElse("Scene"))));
        }
    }
}
