package dev.nachlauf.connectors.place.folder;

import dev.nachlauf.connectors.place.FilePattern;
import dev.nachlauf.core.system.Reach;
import dev.nachlauf.core.system.Setting;
import dev.nachlauf.core.system.Settings;
import dev.nachlauf.core.system.SystemType;
import java.nio.file.Path;
import java.util.List;

/** A folder. */
public final class FolderType implements SystemType {
    @Override
    public String type() {
        return "folder";
    }

    @Override
    public String help() {
        return "A folder on the machine where the service runs.";
    }

    @Override
    public List<Setting> settings() {
        return List.of(Setting.required("path", "the folder, as an absolute path"), FilePattern.QUIET);
    }

    @Override
    public Reach reach(Settings settings) {
        return new Reach.Folder(Path.of(settings.required("path")));
    }

    @Override
    public Class<Folder> opens() {
        return Folder.class;
    }

    @Override
    public Folder open(Settings settings) {
        return new Folder(Path.of(settings.required("path")), FilePattern.quiet(settings));
    }
}
