package pantry.project;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Collections;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import pantry.base.NaturalOrder;
import pantry.base.PantryException;
import pantry.base.Progress;
import pantry.library.Asset;
import pantry.library.LayerRole;
import pantry.library.Library;
import pantry.library.Owner;
import pantry.library.Problem;
import pantry.library.Uses;
import pantry.library.VersionStatus;
import pantry.usd.SdfPath;

/**
 * Answers which file of which project uses what, in which version and how often. What it knows is that of the moment in
 * which it was made.
 */
public final class Reach {
    private final UseIndex index;
    private final List<Library> libraries;
    private final List<Path> projects;
    private final Map<Path, String> names = new HashMap<>();
    private final Map<Path, Asset> assets = new LinkedHashMap<>();
    private final Map<String, Asset> byId = new HashMap<>();
    private @Nullable List<Held> held;
    private @Nullable Map<Path, Waiting> waiting;

    /**
     * One file's uses of an asset's version.
     *
     * @param placements how often it is used, as composed
     * @param following whether the file shows whatever version is ready
     * @param behind how many versions there are between the one that is used and the ready one; 0 for those that follow
     */
    public record SceneUse(Path file, long placements, String version, boolean following, int behind) {}

    /** A file's uses of one version of an asset, as an asset of which it is told. */
    public record AssetUse(Asset asset, String version, long placements, boolean following, int behind) {}

    /**
     * A placement that is pinned to a version older than the ready one.
     *
     * @param path the prim, with the variants in which it refers to the asset
     * @param behind how many versions
     */
    public record Outdated(Path file, String path, Asset asset, String version, String ready, int behind) {}

    /**
     * A place in a file that refers to an asset.
     *
     * @param place the prim, with the variants in which it does
     * @param target the layer that it names
     * @param version the one that it is pinned to; empty where it follows
     */
    public record Held(Path file, String place, Path target, Asset asset, Optional<String> version) {}

    /**
     * What nobody uses.
     *
     * @param assets no file of the projects uses them, nor does another asset
     * @param versions of the other assets, those that are neither used nor ready
     */
    public record Unused(List<UnusedAsset> assets, List<UnusedVersion> versions) {}

    /** @param bytes of its files, all versions together */
    public record UnusedAsset(Asset asset, long bytes) {}

    /** @param bytes of its files */
    public record UnusedVersion(Asset asset, String version, long bytes) {}

    /**
     * What a project's file uses that should be looked at.
     *
     * @param behind placements that are pinned to an older version than the ready one
     * @param mixed assets of which the file uses more than one version
     * @param unready uses of versions that are retired, or drafts
     * @param missing files that it names and that are not there
     */
    public record Waiting(int behind, int mixed, int unready, int missing) {
        public static final Waiting NOTHING = new Waiting(0, 0, 0, 0);

        /** How many things wait. */
        public int total() {
            return behind + mixed + unready + missing;
        }

        /** Those of two files together. */
        public Waiting and(Waiting other) {
            return new Waiting(
                    behind + other.behind, mixed + other.mixed, unready + other.unready, missing + other.missing);
        }
    }

    /** @param index brought up to date before */
    public Reach(UseIndex index, List<Library> libraries, List<Project> projects) {
        this.index = index;
        this.libraries = List.copyOf(libraries);
        this.projects = projects.stream().map(Project::folder).toList();
        projects.forEach(project -> names.put(project.folder(), project.name()));
        for (Library library : libraries) {
            for (Asset asset : library.assets()) {
                assets.put(asset.folder(), asset);
                byId.putIfAbsent(asset.card().id(), asset);
            }
        }
    }

    public List<Library> libraries() {
        return libraries;
    }

    /** Whether another knows the same assets, with the same versions and cards. */
    public boolean sameAssets(Reach other) {
        return assets.equals(other.assets);
    }

    /** The name of the project in a folder. */
    String name(Path project) {
        return names.getOrDefault(project, String.valueOf(project.getFileName()));
    }

    /** The folders of the projects. */
    public List<Path> projectFolders() {
        return projects;
    }

    /** The folders of the assets that each file of the projects uses. */
    Map<Path, Set<Path>> usedFolders() {
        Map<Path, Set<Path>> used = new TreeMap<>();
        for (UseIndex.FileUse found : index.uses(projects)) {
            if (assets.containsKey(found.use().target())) {
                used.computeIfAbsent(found.file(), file -> new HashSet<>())
                        .add(found.use().target());
            }
        }
        return used;
    }

    /** What each file of the projects uses. */
    List<UseIndex.FileUse> usesInProjects() {
        return index.uses(projects);
    }

    /** What each version that is made of other assets uses, by their entry layers. */
    List<UseIndex.FileUse> usesInLibraries() {
        return index.uses(libraries.stream().map(Library::root).toList());
    }

    /** What files that are missing held when they were last there: bytes and checksum. */
    Map<Path, String> lostContents() {
        return index.lostContents(projects);
    }

    /** The shapes of what files that are missing showed when they were last there. */
    Map<Path, LayerShape> lostShapes() {
        return index.lostShapes(projects);
    }

    /** The files that those of the projects name. */
    List<UseIndex.Named> named() {
        return index.named(projects);
    }

    /** All assets of the libraries. */
    public Collection<Asset> assets() {
        return assets.values();
    }

    public Optional<Asset> byId(String id) {
        return Optional.ofNullable(byId.get(id));
    }

    /** The asset in a folder. */
    public Optional<Asset> asset(Path folder) {
        return Optional.ofNullable(assets.get(folder));
    }

    /** All files of the projects. */
    public List<Path> files() {
        return index.files(projects);
    }

    /**
     * Files by their absolute paths, each once.
     *
     * @throws PantryException where one is none of the projects'
     */
    Set<Path> filesOf(Collection<Path> named) {
        Set<Path> asked = new LinkedHashSet<>();
        named.forEach(file -> asked.add(file.toAbsolutePath().normalize()));
        List<Path> known = named.isEmpty() ? List.of() : files();
        for (Path file : asked) {
            if (!known.contains(file)) {
                throw new PantryException(file, "is no file of the projects");
            }
        }
        return asked;
    }

    /** What of the projects cannot be read. */
    public List<UseIndex.Unreadable> unreadable() {
        return index.unreadable(projects);
    }

    /**
     * The files that use an asset.
     *
     * @param version only uses of this one; of all where empty
     */
    public List<SceneUse> uses(Asset asset, Optional<String> version) {
        return sceneUses(asset, version, projects);
    }

    /** The versions of assets that are made with an asset, by their entry layers. */
    public List<SceneUse> composites(Asset asset, Optional<String> version) {
        return sceneUses(asset, version, libraries.stream().map(Library::root).toList());
    }

    private List<SceneUse> sceneUses(Asset asset, Optional<String> version, List<Path> folders) {
        return index.usesOf(folders, List.of(asset.folder())).stream()
                .filter(found ->
                        version.isEmpty() || version.get().equals(found.use().version()))
                .map(found -> new SceneUse(
                        found.file(),
                        found.count(),
                        found.use().version(),
                        found.use().following(),
                        behind(asset, found.use())))
                .toList();
    }

    /** How much each asset is used in the projects, by its folder; those that are not used are left out. */
    public Map<Path, UseIndex.Total> totals() {
        Map<Path, UseIndex.Total> totals = new HashMap<>(index.totals(projects));
        totals.keySet().retainAll(assets.keySet());
        return totals;
    }

    /** The files that use a file which is of no asset: a scene, a section, a part; as composed. */
    public Map<Path, Long> usesOfFile(Path file) {
        Map<Path, Long> uses = new TreeMap<>();
        index.usesOf(projects, List.of(file)).forEach(found -> uses.merge(found.file(), found.count(), Long::sum));
        for (UseIndex.Named named : index.named(projects)) {
            if (named.target().equals(file) && (named.sublayer() || named.image())) {
                uses.merge(named.file(), (long) Math.max(1, named.places().size()), Long::sum);
            }
        }
        return uses;
    }

    /** The files of the projects that no other file uses, as {@link #usesOfFile} tells it; of all at once. */
    public Set<Path> unusedFiles() {
        Set<Path> unused = new LinkedHashSet<>(files());
        index.used(projects).forEach(use -> unused.remove(use.target()));
        for (UseIndex.Named named : index.named(projects)) {
            if (named.sublayer() || named.image()) {
                unused.remove(named.target());
            }
        }
        return unused;
    }

    /** The assets that a file uses, by name. */
    public List<AssetUse> usedBy(Path file) {
        return index.uses(projects).stream()
                .filter(found -> found.file().equals(file) && found.use().isOfAsset())
                .flatMap(found -> asset(found.use().target())
                        .map(asset -> new AssetUse(
                                asset,
                                found.use().version(),
                                found.count(),
                                found.use().following(),
                                behind(asset, found.use())))
                        .stream())
                .sorted(Comparator.comparing(
                                (AssetUse use) -> use.asset().card().name(), NaturalOrder.BY_NAME)
                        .thenComparing(AssetUse::version))
                .toList();
    }

    private static int behind(Asset asset, Use use) {
        return use.following() ? 0 : behind(asset, use.version());
    }

    /** How many versions of an asset come after one, up to the ready one. */
    public static int behind(Asset asset, String version) {
        List<String> versions = asset.versions();
        int ready = asset.ready().map(versions::indexOf).orElse(-1);
        int used = versions.indexOf(version);
        // A version that is gone is behind all that there are.
        return Math.max(0, ready - used);
    }

    /** The placements that the projects' files pin to a version older than the ready one, by file. */
    public List<Outdated> outdated() {
        List<Outdated> outdated = new ArrayList<>();
        for (Held held : held()) {
            if (held.version().isPresent()) {
                Asset asset = held.asset();
                String version = held.version().get();
                int behind = behind(asset, version);
                if (behind > 0) {
                    outdated.add(new Outdated(
                            held.file(),
                            held.place(),
                            asset,
                            version,
                            asset.ready().orElseThrow(),
                            behind));
                }
            }
        }
        return outdated;
    }

    /** The places in the projects' files that refer to assets, by file. */
    public synchronized List<Held> held() {
        List<Held> known = held;
        if (known == null) {
            known = List.copyOf(findHeld());
            held = known;
        }
        return known;
    }

    private List<Held> findHeld() {
        List<Held> all = new ArrayList<>();
        Map<Path, Optional<Owner>> owners = new HashMap<>();
        for (UseIndex.Named named : index.named(projects)) {
            if (!named.sublayer() && !named.image()) {
                owners.computeIfAbsent(named.target(), this::owner).ifPresent(owner -> named.places()
                        .forEach(place -> all.add(
                                new Held(named.file(), place, named.target(), owner.asset(), owner.version()))));
            }
        }
        return all;
    }

    /** The asset that a file stands for, also where it was moved or is not there. */
    Optional<Owner> owner(Path file) {
        Optional<LayerRole> role = LayerRole.of(file);
        if (role.isEmpty()
                || role.get().kind() == LayerRole.Kind.PART
                || role.get().kind() == LayerRole.Kind.STUB) {
            return Optional.empty();
        }
        Optional<String> version = Optional.of(role.get().version()).filter(text -> !text.isEmpty());
        Asset here = assets.get(role.get().folder());
        if (here != null) {
            return Optional.of(new Owner(here, version));
        }
        return libraries.stream()
                .filter(library -> file.startsWith(library.root()))
                .flatMap(library -> library.owner(file).stream())
                .flatMap(owner -> byId(owner.asset().card().id()).stream())
                .map(asset -> new Owner(asset, version))
                .findFirst();
    }

    /** The folders of assets, and versions of them, that the projects or other assets use. */
    private record Used(Set<Path> assets, Set<String> versions) {
        void add(Path asset, String version) {
            assets.add(asset);
            versions.add(asset + "\n" + version);
        }

        boolean has(Asset asset, String version) {
            return versions.contains(asset.folder() + "\n" + version);
        }
    }

    private Used used() {
        Used used = new Used(new HashSet<>(), new HashSet<>());
        for (Use use : index.used(projects)) {
            used.add(use.target(), use.version());
        }
        for (Asset asset : assets.values()) {
            for (Uses.Use use : Uses.of(asset.folder())) {
                byId(use.id()).ifPresent(target -> used.add(target.folder(), use.version()));
            }
        }
        return used;
    }

    /** The assets that neither the projects nor other assets use. */
    public List<Asset> unusedAssets() {
        Set<Path> used = used().assets();
        return assets.values().stream()
                .filter(asset -> !used.contains(asset.folder()))
                .toList();
    }

    /** What of a library neither the projects nor other assets use. */
    public Unused unused(Library library) {
        Used used = used();
        List<UnusedAsset> unusedAssets = new ArrayList<>();
        List<UnusedVersion> unusedVersions = new ArrayList<>();
        for (Asset asset : assets.values()) {
            if (!asset.folder().startsWith(library.root())) {
                continue;
            }
            if (!used.assets().contains(asset.folder())) {
                unusedAssets.add(new UnusedAsset(asset, bytes(asset.folder())));
                continue;
            }
            for (String version : asset.versions()) {
                if (!used.has(asset, version) && !asset.ready().equals(Optional.of(version))) {
                    unusedVersions.add(new UnusedVersion(
                            asset, version, bytes(asset.folder().resolve(version))));
                }
            }
        }
        return new Unused(unusedAssets, unusedVersions);
    }

    private static long bytes(Path folder) {
        try (Stream<Path> files = Files.walk(folder)) {
            return files.filter(Files::isRegularFile).mapToLong(Reach::size).sum();
        } catch (IOException | UncheckedIOException e) {
            return 0;
        }
    }

    private static long size(Path file) {
        try {
            return Files.size(file);
        } catch (IOException e) {
            return 0;
        }
    }

    /**
     * A copy of an asset that projects use, whose original has newer versions.
     *
     * @param versions how many versions of the original, up to the ready one, came after those that the copy has
     * @param placements of the copy
     */
    public record MovedOn(Asset copy, Asset original, int versions, long placements) {}

    /** The copies whose originals have moved on, of those originals that stand in a library that is open. */
    public List<MovedOn> movedOn() {
        List<MovedOn> all = new ArrayList<>();
        for (Asset copy : assets.values()) {
            Optional<Asset> original = Optional.ofNullable(copy.card().copyOf()).flatMap(this::byId);
            if (original.isPresent() && copy.newest().isPresent()) {
                int versions = behind(original.get(), copy.newest().get());
                long placements = placements(copy);
                if (versions > 0 && placements > 0) {
                    all.add(new MovedOn(copy, original.get(), versions, placements));
                }
            }
        }
        return all;
    }

    /** How often an asset is placed in the projects' files, as composed. */
    public long placements(Asset asset) {
        return uses(asset, Optional.empty()).stream()
                .mapToLong(SceneUse::placements)
                .sum();
    }

    /**
     * A version that projects use and that is not as it was sealed.
     *
     * @param problem the first that was found
     */
    public record Broken(Asset asset, String version, Problem problem, long placements) {}

    /** Checks the seals of all versions that the projects use; reads all their files. */
    public List<Broken> broken(Progress progress) {
        List<Broken> broken = new ArrayList<>();
        int done = 0;
        for (Asset asset : assets.values()) {
            progress.step("checking " + asset.card().name(), (double) done++ / assets.size());
            Map<String, Long> byVersion = new TreeMap<>();
            uses(asset, Optional.empty()).forEach(use -> byVersion.merge(use.version(), use.placements(), Long::sum));
            byVersion.forEach((version, placements) -> {
                if (asset.versions().contains(version)) {
                    Library.check(asset, version).stream()
                            .findFirst()
                            .ifPresent(problem -> broken.add(new Broken(asset, version, problem, placements)));
                }
            });
        }
        return broken;
    }

    /** What waits in a file. */
    public Waiting waiting(Path file) {
        return waiting().getOrDefault(file, Waiting.NOTHING);
    }

    /** What waits in each file of the projects; those in which nothing does are left out. */
    public synchronized Map<Path, Waiting> waiting() {
        Map<Path, Waiting> known = waiting;
        if (known == null) {
            known = Collections.unmodifiableMap(findWaiting());
            waiting = known;
        }
        return known;
    }

    private Map<Path, Waiting> findWaiting() {
        Map<Path, Waiting> waiting = new TreeMap<>();
        outdated().forEach(item -> waiting.merge(item.file(), new Waiting(1, 0, 0, 0), Waiting::and));
        for (UseIndex.Mixed mixed : index.mixed(projects)) {
            if (assets.containsKey(mixed.asset())) {
                waiting.merge(mixed.file(), new Waiting(0, 1, 0, 0), Waiting::and);
            }
        }
        Set<Use> unready = index.used(projects).stream()
                .filter(use -> !use.following() && use.isOfAsset() && assets.containsKey(use.target()))
                .filter(use ->
                        Objects.requireNonNull(assets.get(use.target())).status(use.version()) != VersionStatus.READY)
                .collect(Collectors.toSet());
        index.usesOf(projects, unready.stream().map(Use::target).distinct().toList()).stream()
                .filter(found -> unready.contains(found.use()))
                .forEach(found -> waiting.merge(found.file(), new Waiting(0, 0, 1, 0), Waiting::and));
        missing().forEach(named -> waiting.merge(named.file(), new Waiting(0, 0, 0, 1), Waiting::and));
        return waiting;
    }

    /** The files that the projects name and that are not there. */
    public List<UseIndex.Named> missing() {
        return index.missing(projects);
    }

    /** The prim that a place of {@link UseIndex.Named} is at, without the variants in which it is. */
    public static SdfPath prim(String place) {
        return SdfPath.of(place).prim().withoutVariants();
    }
}
