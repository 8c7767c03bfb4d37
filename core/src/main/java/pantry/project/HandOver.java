package pantry.project;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.time.LocalDate;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Collections;
import java.util.Deque;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import pantry.base.AtomicFiles;
import pantry.base.FileGate;
import pantry.base.ImageTiles;
import pantry.base.IoProblems;
import pantry.base.Names;
import pantry.base.PantryException;
import pantry.base.Progress;
import pantry.library.Bag;
import pantry.library.Library;
import pantry.library.Owner;
import pantry.usd.AssetLocation;
import pantry.usd.AssetPaths;
import pantry.usd.Layer;
import pantry.usd.Layers;
import pantry.usd.UsdException;
import pantry.usd.compose.LayerCache;
import pantry.usd.file.LayerAssets;
import pantry.usd.file.LayerFiles;
import pantry.usd.file.UsdPackager;

/**
 * Puts files of projects together with all that they use: once each, named by relative paths, and pinned to the versions
 * that they show now. The whole is sealed as a bag (RFC 8493), with a page of who must be named.
 */
public final class HandOver {
    private static final String LIBRARY = "library";
    private static final String ELSEWHERE = "elsewhere";

    private final Reach reach;
    private final List<Project> projects;
    private final Form form;
    private final LayerCache layers;
    private final List<Path> scenes;
    private final List<Credits.Line> credits;
    private final Set<String> taken = new HashSet<>();
    private final Map<Path, String> roots = new HashMap<>();

    /** Each file that is taken along, with where the asset paths in it lead to. */
    private final Map<Path, Map<String, AssetLocation>> files = new LinkedHashMap<>();

    private final Map<Path, String> places = new HashMap<>();
    private final Set<Missing> missing = new LinkedHashSet<>();

    /** How files are handed over. */
    public enum Form {
        /** As they are, side by side in folders. */
        FOLDER,
        /** Each as one package with all that it uses. */
        PACKAGES
    }

    /**
     * Something that cannot be taken along as it is.
     *
     * @param file that names it
     * @param why what it is and what is wrong with it
     */
    public record Missing(Path file, String why) {
        /** In one line. */
        public String line() {
            return file + ": " + why;
        }
    }

    /**
     * What was handed over.
     *
     * @param folder the bag
     * @param scenes the files that were asked for, as they are in it
     */
    public record Written(Path folder, List<Path> scenes) {
        public Written {
            scenes = List.copyOf(scenes);
        }
    }

    private HandOver(Reach reach, List<Project> projects, Collection<Path> chosen, Form form) {
        this.reach = reach;
        this.projects = projects;
        this.form = form;
        this.layers = WhatIf.layers(reach);
        this.scenes = scenes(chosen);
        this.credits = Credits.of(reach, scenes);
    }

    /**
     * Finds out what files use. Nothing is written.
     *
     * @param chosen files of the projects; all where there are none
     * @throws PantryException where one is none of the projects'
     */
    public static HandOver plan(
            Reach reach, List<Project> projects, Collection<Path> chosen, Form form, Progress progress) {
        HandOver handOver = new HandOver(reach, projects, chosen, form);
        handOver.gather(progress);
        return handOver;
    }

    private List<Path> scenes(Collection<Path> chosen) {
        List<Path> asked = List.copyOf(reach.filesOf(chosen));
        if (!asked.isEmpty()) {
            return asked;
        }
        // What other files are made of comes along with them.
        return form == Form.PACKAGES ? List.copyOf(reach.unusedFiles()) : reach.files();
    }

    /** The files that were asked for. */
    public List<Path> scenes() {
        return scenes;
    }

    /** All files that are taken along. */
    public Set<Path> files() {
        return Collections.unmodifiableSet(files.keySet());
    }

    /** How large they are together, in bytes. */
    public long bytes() {
        return files.keySet().stream().mapToLong(file -> file.toFile().length()).sum();
    }

    /** What the files name and cannot be taken along as it is. */
    public List<Missing> missing() {
        return List.copyOf(missing);
    }

    /** Who must be named. */
    public List<Credits.Line> credits() {
        return credits;
    }

    private void gather(Progress progress) {
        Deque<Path> waiting = new ArrayDeque<>(scenes);
        Set<Path> known = new HashSet<>(scenes);
        while (!waiting.isEmpty()) {
            Path file = waiting.removeFirst();
            progress.step("looking at " + file, (double) files.size() / known.size());
            Map<String, AssetLocation> names = names(file);
            files.put(file, names);
            for (AssetLocation there : names.values()) {
                if (known.add(there.file())) {
                    waiting.add(there.file());
                }
            }
        }
    }

    private Map<String, AssetLocation> names(Path file) {
        Map<String, AssetLocation> names = new LinkedHashMap<>();
        // A package names nothing outside of itself.
        if (!LayerFiles.isLayer(file.toString())
                || Names.ending(file.toString()).equals("usdz")) {
            return names;
        }
        try {
            Layer layer = layers.open(AssetLocation.of(file));
            for (String written : LayerAssets.of(layer)) {
                boolean found = false;
                for (String each : ImageTiles.each(written)) {
                    AssetLocation there = pinned(paths(file).resolve(layer, each));
                    if (layers.gate().admit(there.file(), each, file).isPresent()) {
                        names.put(each, there);
                        found = true;
                    }
                }
                if (!found) {
                    missing.add(new Missing(file, whyNot(written)));
                }
            }
        } catch (UsdException e) {
            missing.add(new Missing(file, e.reason()));
        }
        return names;
    }

    private String whyNot(String written) {
        return layers.gate().refusals().stream()
                .filter(refusal -> refusal.written().equals(written))
                .map(FileGate.Refusal::line)
                .findFirst()
                .orElse(written + " is not there");
    }

    private AssetPaths paths(Path file) {
        return Project.assetPaths(projects, file);
    }

    /** Where what stands for the ready version of an asset leads to now. */
    private AssetLocation pinned(AssetLocation there) {
        if (there.isPackaged()) {
            return there;
        }
        Optional<Owner> owner = reach.owner(there.file());
        Optional<String> version = owner.flatMap(each -> each.version().or(each.asset()::ready));
        return owner.isEmpty() || version.isEmpty()
                ? there
                : AssetLocation.of(owner.get().asset().entryLayer(version.get()));
    }

    /**
     * Hands the files over.
     *
     * @param folder must not be there yet
     * @throws PantryException where the folder is there or cannot be written; nothing is then left of it
     * @throws java.util.concurrent.CancellationException when cancelled; nothing is then left of it
     */
    public Written write(Path folder, Clock clock, Progress progress) {
        Path target = folder.toAbsolutePath().normalize();
        if (Files.exists(target)) {
            throw new PantryException(target, "is already there");
        }
        List<Path> written = new ArrayList<>();
        try {
            Files.createDirectories(target.getParent());
            AtomicFiles.createFolder(target, bag -> {
                Path data = Files.createDirectories(bag.resolve("data"));
                Progress most = progress.part(0, 0.9);
                List<Path> made = form == Form.PACKAGES ? packages(data, most) : copies(data, most);
                made.forEach(file -> written.add(target.resolve(bag.relativize(file))));
                // Its files may name each other.
                Project.open(data).with(new ProjectInfo(title(), List.of(), List.of(), List.of()));
                AtomicFiles.write(data.resolve("credits.html"), Credits.page(title(), credits));
                AtomicFiles.write(
                        data.resolve("credits.csv"), Credits.table(credits).csv());
                Bag.seal(bag, labels(clock), progress.part(0.9, 1));
            });
        } catch (IOException e) {
            throw new PantryException(target, "cannot be written: " + IoProblems.describe(e), e);
        }
        return new Written(target, written);
    }

    private String title() {
        return String.join(", ", projects.stream().map(Project::name).toList());
    }

    private Map<String, String> labels(Clock clock) {
        Map<String, String> labels = new LinkedHashMap<>();
        labels.put("External-Description", title());
        labels.put("Bagging-Date", LocalDate.now(clock).toString());
        labels.put("Bag-Software-Agent", "Pantry");
        return labels;
    }

    private List<Path> packages(Path data, Progress progress) throws IOException {
        Layers pinned = new Pinned();
        List<Path> written = new ArrayList<>();
        for (Path scene : scenes) {
            progress.step("packing " + scene, (double) written.size() / scenes.size());
            String name = place(scene);
            Path file = data.resolve(free(name.substring(0, name.lastIndexOf('.')), ".usdz"));
            Files.createDirectories(file.getParent());
            UsdPackager.write(
                    pinned.open(AssetLocation.of(scene)),
                    pinned,
                    file,
                    Optional.of(what -> missing.add(new Missing(scene, what))));
            written.add(file);
        }
        return written;
    }

    private List<Path> copies(Path data, Progress progress) throws IOException {
        int done = 0;
        for (Map.Entry<Path, Map<String, AssetLocation>> each : files.entrySet()) {
            progress.step("copying " + each.getKey(), (double) done++ / files.size());
            Path target = data.resolve(place(each.getKey()));
            Files.createDirectories(target.getParent());
            if (each.getValue().isEmpty()) {
                Files.copy(each.getKey(), target);
            } else {
                Map<String, String> renamed = new HashMap<>();
                each.getValue()
                        .forEach((written, there) -> renamed.put(written, renamed(written, there, target, data)));
                byte[] before = Files.readAllBytes(each.getKey());
                Files.write(target, AssetRewriter.renamed(each.getKey(), before, written -> ImageTiles.renamed(
                                written, renamed::get)
                        .orElse(renamed.getOrDefault(written, written))));
            }
        }
        return scenes.stream().map(scene -> data.resolve(place(scene))).toList();
    }

    /** A path as it was written where it still leads to the same file, so that sealed layers stay what they are. */
    private String renamed(String written, AssetLocation there, Path target, Path data) {
        AssetLocation to = new AssetLocation(data.resolve(place(there.file())), there.inside());
        return AssetPaths.PLAIN.resolve(new Layer(target), written).equals(to)
                ? written
                : AssetPaths.relative(target.getParent(), to);
    }

    /** Where a file stands in what is handed over. */
    private String place(Path file) {
        return places.computeIfAbsent(file, key -> {
            for (Project project : projects) {
                if (key.startsWith(project.folder())) {
                    return within(project.folder(), Names.slug(project.name()), key);
                }
            }
            for (Library library : reach.libraries()) {
                if (key.startsWith(library.root())) {
                    return within(
                            library.root(),
                            LIBRARY + "/" + Names.slug(library.info().name()),
                            key);
                }
            }
            Path folder = key.getParent();
            return within(folder, ELSEWHERE + "/" + Names.slug(String.valueOf(folder.getFileName())), key);
        });
    }

    private String within(Path root, String name, Path file) {
        String folder = roots.computeIfAbsent(root, key -> free(name, ""));
        return folder + "/" + root.relativize(file).toString().replace('\\', '/');
    }

    private String free(String stem, String ending) {
        String name = Names.free(stem, candidate -> taken.contains(candidate + ending)) + ending;
        taken.add(name);
        return name;
    }

    /** The files' layers, each of which leads to versions rather than to what is ready. */
    private final class Pinned implements Layers {
        @Override
        public Layer open(AssetLocation location) {
            return layers.open(location);
        }

        @Override
        public AssetLocation resolve(Layer anchor, String written) {
            return pinned(anchor.file()
                    .map(HandOver.this::paths)
                    .orElse(AssetPaths.PLAIN)
                    .resolve(anchor, written));
        }

        @Override
        public FileGate gate() {
            return layers.gate();
        }
    }
}
