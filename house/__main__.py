from house.commands import main

main()
