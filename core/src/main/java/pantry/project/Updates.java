package pantry.project;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import pantry.base.PantryException;
import pantry.library.Asset;

/** Plans changes of the versions and assets that the placements in projects refer to. */
public final class Updates {
    private final Reach reach;
    private final Set<String> assets;
    private final Set<Path> files;

    /**
     * @param assets of which the placements are meant; all where there are none
     * @param files in which; all files of the projects where there are none
     * @throws PantryException where a file is none of the projects'
     */
    public Updates(Reach reach, Collection<Asset> assets, Collection<Path> files) {
        this.reach = reach;
        this.assets = assets.stream().map(asset -> asset.card().id()).collect(Collectors.toUnmodifiableSet());
        this.files = reach.filesOf(files);
    }

    private List<Reach.Held> meant() {
        return reach.held().stream()
                .filter(held ->
                        assets.isEmpty() || assets.contains(held.asset().card().id()))
                .filter(held -> files.isEmpty() || files.contains(held.file()))
                .toList();
    }

    /** Pinned placements that are behind go to the ready version, and stay pinned. */
    public ChangePlan toReady() {
        List<Change> changes = new ArrayList<>();
        for (Reach.Held held : meant()) {
            Optional<String> version = held.version();
            if (version.isPresent() && Reach.behind(held.asset(), version.get()) > 0) {
                add(changes, held, held.asset(), held.asset().ready());
            }
        }
        return new ChangePlan("Updated placements to the ready versions", changes);
    }

    /**
     * All placements are pinned to a version.
     *
     * @throws PantryException where an asset that is meant has no such version
     */
    public ChangePlan to(String version) {
        List<Change> changes = new ArrayList<>();
        for (Reach.Held held : meant()) {
            if (!held.asset().versions().contains(version)) {
                throw new PantryException(held.asset().folder(), "has no version " + version);
            }
            add(changes, held, held.asset(), Optional.of(version));
        }
        return new ChangePlan("Pinned placements to " + version, changes);
    }

    /** Following placements are pinned to what they show now. */
    public ChangePlan pin() {
        List<Change> changes = new ArrayList<>();
        for (Reach.Held held : meant()) {
            if (held.version().isEmpty() && held.asset().ready().isPresent()) {
                add(changes, held, held.asset(), held.asset().ready());
            }
        }
        return new ChangePlan("Pinned placements to what they showed", changes);
    }

    /** Pinned placements follow; those of assets without a ready version stay. */
    public ChangePlan follow() {
        List<Change> changes = new ArrayList<>();
        for (Reach.Held held : meant()) {
            if (held.version().isPresent() && held.asset().ready().isPresent()) {
                add(changes, held, held.asset(), Optional.empty());
            }
        }
        return new ChangePlan("Let placements follow", changes);
    }

    /**
     * Placements refer to another asset instead: those that follow, follow it; those that are pinned, are pinned to its
     * ready version.
     *
     * @throws PantryException where it has no ready version
     */
    public ChangePlan swap(Asset other) {
        if (other.ready().isEmpty()) {
            throw new PantryException(other.folder(), "has no ready version to be used instead");
        }
        List<Change> changes = new ArrayList<>();
        for (Reach.Held held : meant()) {
            if (!held.asset().card().id().equals(other.card().id())) {
                add(changes, held, other, held.version().flatMap(version -> other.ready()));
            }
        }
        return new ChangePlan("Swapped placements for " + other.card().name(), changes);
    }

    private static void add(List<Change> changes, Reach.Held held, Asset asset, Optional<String> version) {
        Path after = version.map(asset::entryLayer).orElse(asset.readyLayer());
        if (!after.equals(held.target())) {
            String says = asset.card().id().equals(held.asset().card().id())
                    ? asset.card().name() + ": " + word(held.version()) + " → " + word(version)
                    : held.asset().card().name() + " → " + asset.card().name();
            changes.add(new Change(held.file(), held.place(), held.target(), after, says));
        }
    }

    private static String word(Optional<String> version) {
        return version.orElse("following");
    }
}
